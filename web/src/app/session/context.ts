import { createContext, useContext, useSyncExternalStore } from 'react'
import type { Design, Link, LinkOut } from '../../api'
import type { Session } from './session'

export const SessionContext = createContext<Session | null>(null)

export function useSession() {
  const session = useContext(SessionContext)
  if (!session) throw new Error('outside a job')
  const state = useSyncExternalStore(session.subscribe, session.state)
  return { session, ...state }
}

/** A link with its results, and how to edit it. */
export function useLink(linkId: string | undefined) {
  const { session, design, evaluation, save } = useSession()
  const index = design.links.findIndex((link) => link.id === linkId)
  const link: Link | undefined = design.links[index]
  const result: LinkOut | undefined = evaluation?.links.find((one) => one.id === linkId)
  const edit = (label: string, change: (link: Link) => Link) =>
    session.edit(`${linkId}:${label}`, (now) => replaceLink(now, linkId, change))
  const problems = new Map<string, string>()
  if (save.kind === 'refused')
    for (const issue of save.problem.issues) {
      const place = issue.path.replace(/^design\./, '')
      if (place.startsWith(`links.${index}.`)) problems.set(place.slice(`links.${index}.`.length), issue.message)
    }
  for (const fault of result?.faults ?? []) if (!problems.has(fault.field)) problems.set(fault.field, fault.message)
  return { session, design, link, result, edit, problems }
}

function replaceLink(design: Design, linkId: string | undefined, change: (link: Link) => Link): Design {
  const links = design.links.map((link) => (link.id === linkId ? change(link) : link))
  return { ...design, links }
}
