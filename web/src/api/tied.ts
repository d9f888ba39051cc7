import type { Design, Link } from './types'

/** What the lengths of links that are tied to an end depend on, for keys of what is asked of the server. */
export const tiedTo = (design: Design, links: (Link | undefined)[]) =>
  links.map((link) => {
    if (link?.between.kind !== 'end') return null
    const { end_id } = link.between
    const end = design.ends.find((one) => one.id === end_id)?.end
    return end ? [end.points, end.right_points] : null
  })
