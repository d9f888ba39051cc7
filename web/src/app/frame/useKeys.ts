import { useEffect } from 'react'
import { useNavigate } from 'react-router'
import { useUnits } from '../../quantity'
import { OF_A_PART } from '../holds'
import { usePartsOf, useSessionPart, useTheSession } from '../session'
import { useEnd, useTravel } from '../travel'
import { STATIONS } from '../stations'

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))

/** The part that the address names now: one that was pressed for a moment ago may not be drawn yet. */
const partNow = () => window.location.pathname.split('/')[4]

/** The keys of the frame; none of them while something is being typed, save undo and redo. */
export function useKeys({ find, help }: { find: () => void; help: () => void }) {
  const go = useNavigate()
  const session = useTheSession()
  const members = usePartsOf('members')
  const brackets = usePartsOf('brackets')
  const jobId = useSessionPart((state) => state.jobId)
  const { toggle } = useUnits()
  const { travel, playing, move } = useTravel()
  const end = useEnd()
  useEffect(() => {
    const next = (by: number) => {
      const station = window.location.pathname.split('/')[3] ?? 'members'
      const where = OF_A_PART.includes(station) ? station : 'members'
      const ids = (where === 'brackets' ? brackets : members).map((part) => part.id)
      if (ids.length === 0) return
      const partId = partNow()
      const at = partId ? ids.indexOf(partId) : by > 0 ? -1 : 0
      void go(`/jobs/${jobId}/${where}/${ids[(at + by + ids.length) % ids.length]}`)
    }
    const press = (event: KeyboardEvent) => {
      const partId = partNow()
      const control = event.ctrlKey || event.metaKey
      if (control && event.key.toLowerCase() === 'z' && !typing(event.target)) {
        event.preventDefault()
        if (event.shiftKey) session.redo()
        else session.undo()
        return
      }
      if (control || event.altKey || typing(event.target) || document.querySelector('[role=dialog]')) return
      const station = STATIONS.find((one) => String(one.number) === event.key)
      if (station) {
        const here = window.location.pathname.split('/')[3] === station.path
        const keeps = OF_A_PART.includes(station.path) && partId && !here
        void go(`/jobs/${jobId}/${station.path}${keeps ? `/${partId}` : ''}`)
      } else if (event.key === 'Escape') {
        const [, , , here] = window.location.pathname.split('/')
        if (partId && here) void go(`/jobs/${jobId}/${here}`)
      } else if (event.key === '/') {
        event.preventDefault()
        find()
      } else if (event.key === '?') help()
      else if (event.key.toLowerCase() === 'u') toggle()
      else if (event.key === ',' && end) move({ travel: Math.max(-end.box.droop_mm, travel - 5), playing: false })
      else if (event.key === '.' && end) move({ travel: Math.min(end.box.bump_mm, travel + 5), playing: false })
      else if (event.key === ' ' && end && !(event.target instanceof HTMLButtonElement)) {
        event.preventDefault()
        move({ playing: !playing })
      } else if (event.key === ']') next(1)
      else if (event.key === '[') next(-1)
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [go, session, members, brackets, jobId, toggle, find, help, travel, playing, move, end])
}
