import { Tab, Tabs } from '@mui/material'

/** The tabs over a station's panel. */
export function PanelTabs<Name extends string>(props: {
  value: Name
  onChange: (value: Name) => void
  tabs: { value: Name; label: string }[]
}) {
  return (
    <Tabs
      value={props.value}
      onChange={(_, value: Name) => props.onChange(value)}
      variant="fullWidth"
      sx={{
        minHeight: 42,
        borderBottom: 1,
        borderColor: 'divider',
        '& .MuiTab-root': { minHeight: 42, textTransform: 'none', minWidth: 0, px: 0.5 },
      }}
    >
      {props.tabs.map((one) => (
        <Tab key={one.value} value={one.value} label={one.label} />
      ))}
    </Tabs>
  )
}
