import { SvgIcon, type SvgIconProps } from '@mui/material'

const icon = (path: string) =>
  function Icon(props: SvgIconProps) {
    return (
      <SvgIcon fontSize="small" {...props} viewBox="0 0 20 20">
        <path
          d={path}
          fill="none"
          stroke="currentColor"
          strokeWidth="1.7"
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      </SvgIcon>
    )
  }

export const FlagIcon = icon('M5 18V3m0 0c4-2 6 2 10 0v8c-4 2-6-2-10 0')
export const UndoIcon = icon('M4 8h8a4 4 0 0 1 0 8H8M4 8l3.5-3.5M4 8l3.5 3.5')
export const RedoIcon = icon('M16 8H8a4 4 0 0 0 0 8h4m4-8-3.5-3.5M16 8l-3.5 3.5')
export const SunIcon = icon(
  'M10 6.5a3.5 3.5 0 1 0 0 7 3.5 3.5 0 0 0 0-7M10 2v1.5M10 16.5V18M2 10h1.5M16.5 10H18M4.3 4.3l1 1M14.7 14.7l1 1M15.7 4.3l-1 1M5.3 14.7l-1 1',
)
export const MoonIcon = icon('M16 11.5A6.5 6.5 0 0 1 8.5 4a6.5 6.5 0 1 0 7.5 7.5')
export const CrossIcon = icon('M5 5l10 10M15 5 5 15')
export const PlusIcon = icon('M10 4v12M4 10h12')
export const MenuIcon = icon('M3 6h14M3 10h14M3 14h14')
export const PlayIcon = icon('M6 4l10 6-10 6z')
export const PauseIcon = icon('M7 4v12M13 4v12')
export const GaugeIcon = icon('M4 5h12M4 10h12M4 15h12M7 3.2v3.6M13 8.2v3.6M9 13.2v3.6')
