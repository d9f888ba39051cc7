import { useParams } from 'react-router'
import { LinkView } from './LinkView'
import { LinksOverview } from './LinksOverview'
import { useDesign } from '../../app/session'

/** Station 5: all links of the job, or one of them. */
export function MembersStation() {
  const { linkId } = useParams()
  const design = useDesign()
  const known = design.links.some((link) => link.id === linkId)
  return known && linkId ? <LinkView key={linkId} linkId={linkId} /> : <LinksOverview />
}
