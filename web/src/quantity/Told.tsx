import { useUnits } from './units'

/** A sentence of the core, its lengths in the page's unit. */
export function Told({ children }: { children: string | null | undefined }) {
  const { told } = useUnits()
  return children ? told(children) : null
}
