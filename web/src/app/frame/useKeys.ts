import { useEffect } from 'react'
import { useNavigate, useParams } from 'react-router'
import { useUnits } from '../../quantity'
import { useDesign, useSessionPart, useTheSession } from '../session'
import { useEnd, useTravel } from '../travel'
import { STATIONS } from '../stations'

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))

/** The keys of the frame; none of them while something is being typed, save undo and redo. */
export function useKeys({ find, help }: { find: () => void; help: () => void }) {
  const go = useNavigate()
  const { linkId } = useParams()
  const session = useTheSession()
  const design = useDesign()
  const jobId = useSessionPart((state) => state.jobId)
  const { toggle } = useUnits()
  const { travel, playing, move } = useTravel()
  const end = useEnd()
  useEffect(() => {
    const next = (by: number) => {
      const ids = design.links.map((link) => link.id)
      if (ids.length === 0) return
      const at = linkId ? ids.indexOf(linkId) : by > 0 ? -1 : 0
      const station = window.location.pathname.split('/')[3] ?? 'members'
      const where = ['members', 'brackets', 'jigs'].includes(station) ? station : 'members'
      void go(`/jobs/${jobId}/${where}/${ids[(at + by + ids.length) % ids.length]}`)
    }
    const press = (event: KeyboardEvent) => {
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
        const keeps = ['members', 'brackets', 'jigs'].includes(station.path) && linkId ? `/${linkId}` : ''
        void go(`/jobs/${jobId}/${station.path}${keeps}`)
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
  }, [go, linkId, session, design.links, jobId, toggle, find, help, travel, playing, move, end])
}
