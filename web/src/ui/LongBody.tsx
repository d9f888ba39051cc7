import { useVirtualizer } from '@tanstack/react-virtual'
import type { ReactNode } from 'react'

interface Given {
  ref: (row: HTMLTableRowElement | null) => void
  'data-index': number
  'aria-rowindex': number
}

interface Props<T> {
  /** What scrolls, kept as state by whoever draws it; until it is there every row stands in the page. */
  scroll: HTMLElement | null
  rows: T[]
  columns: number
  /** About how high a row is [px]. */
  height: number
  /** A `tr` that takes what is given it: by that its own height is measured. */
  row: (one: T, given: Given) => ReactNode
}

/** The body of a long table: only the rows that are seen, and some before and after, stand in the page. */
export function LongBody<T>({ scroll, rows, columns, height, row }: Props<T>) {
  // eslint-disable-next-line react-hooks/incompatible-library -- its methods are called here alone
  const virtual = useVirtualizer({
    count: rows.length, getScrollElement: () => scroll, estimateSize: () => height, overscan: 20,
  }) // prettier-ignore
  const given = (index: number): Given => ({
    ref: virtual.measureElement,
    'data-index': index,
    'aria-rowindex': index + 2,
  })
  const seen = virtual.getVirtualItems()
  // a list is never empty because it could not be measured
  if (seen.length === 0) return <tbody>{rows.map((one, index) => row(one, given(index)))}</tbody>
  const before = seen[0]?.start ?? 0
  const after = virtual.getTotalSize() - (seen.at(-1)?.end ?? 0)
  return (
    <tbody>
      <Gap height={before} columns={columns} />
      {seen.map(({ index }) => row(rows[index]!, given(index)))}
      <Gap height={after} columns={columns} />
    </tbody>
  )
}

function Gap({ height, columns }: { height: number; columns: number }) {
  return height > 0 ? (
    <tr aria-hidden style={{ height }}>
      <td colSpan={columns} style={{ padding: 0, border: 0 }} />
    </tr>
  ) : null
}
