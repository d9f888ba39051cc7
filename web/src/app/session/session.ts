import {
  ApiProblem,
  answer,
  api,
  newId,
  withPatch,
  type Design,
  type DraftOut,
  type Evaluation,
  type MergeOut,
  type Patch,
  type ProblemBody,
} from '../../api'
import * as stash from './stash'
import { keepSteps, keptSteps, type Step } from './steps'

/** What the page shows of saving. */
export type SaveState =
  | { kind: 'saved' }
  | { kind: 'unsaved' }
  | { kind: 'saving' }
  | { kind: 'away'; message: string }
  | { kind: 'refused'; problem: ProblemBody }
  /** Two people's drafts; `merge` is how they go together, null while that is asked or where they do not. */
  | { kind: 'conflict'; theirs: DraftOut; merge: MergeOut | null; asking: boolean }

/** Whose of a field is taken, by the field's key. */
export type Take = Record<string, 'mine' | 'theirs'>

export interface SessionState {
  jobId: string
  design: Design
  version: number
  basedOn: number | null
  evaluation: Evaluation | null
  evaluating: boolean
  save: SaveState
  canUndo: boolean
  canRedo: boolean
  /** What a person must know of the last change. */
  told: string[]
}

const SAVE_PAUSE_MS = 600
const REST_MS = 250
/** No longer than this is a job's working out held back for a picture. */
const PICTURES_MS = 400
/** A figure that is typed on after so long a rest is no longer waited for. */
const TYPED_MS = 900
const RETRY_MS = 1500
const KEEP_MS = 80
const HISTORY = 200
const RESTORED = 'restored'

/** Ends the label of what a pointer drags, with the drag's number. */
const ONE_DRAG = / in drag \d+$/

/**
 * One job being worked on: its design, undo and redo, evaluation, and saving by itself. No React in here. An edit that
 * is not saved yet also stands in the browser's storage, so that a closed page or a lost server loses nothing.
 */
export class Session {
  private listeners = new Set<() => void>()
  private foreseers = new Set<(design: Design) => void>()
  private past: Step[] = []
  private future: Step[] = []
  private keeping: number | undefined
  private keepingEdit: number | undefined
  private toKeep = false
  /** What both drafts of a conflict grew from; null where that is not known any more. */
  private grewFrom: Design | null = null
  private lastLabel = ''
  private lastAt = 0
  private evaluation: number | undefined
  private timer: number | undefined
  private saving = false
  private pendingSave: { id: string; design: Design } | null = null
  private evaluationRun = 0
  private asked: AbortController | null = null
  private closed = false
  private older: boolean
  private saved: Design
  private savedAt: string
  private current: SessionState

  /**
   * @param draft the job as the server has it
   * @param pictures resolves when the picture that an edit waits for is on the screen: all of the job is worked out after it
   */
  constructor(
    draft: DraftOut,
    private pictures?: () => Promise<void>,
  ) {
    this.saved = draft.design
    this.savedAt = draft.saved_at
    this.current = {
      jobId: draft.job_id,
      design: draft.design,
      version: draft.version,
      basedOn: draft.based_on,
      evaluation: null,
      evaluating: true,
      save: { kind: 'saved' },
      canUndo: false,
      canRedo: false,
      told: draft.told,
    }
    this.older = draft.told.length > 0
  }

  state = (): SessionState => this.current
  subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  /** Begin to watch and save. */
  open() {
    this.closed = false
    window.addEventListener('pagehide', this.keepNow)
    void this.restore().then(() => this.restoreSteps())
    void this.evaluate()
  }

  /** Save what is not saved and stop. */
  close() {
    this.closed = true
    window.clearTimeout(this.timer)
    window.removeEventListener('pagehide', this.keepNow)
    this.keepNow()
    this.keepStepsNow()
    if (this.current.design !== this.saved && this.current.save.kind !== 'conflict') void this.saveNow()
  }

  /** Be told what the design would be by a figure that is still being typed. */
  onForeseen = (listener: (design: Design) => void) => {
    this.foreseers.add(listener)
    return () => this.foreseers.delete(listener)
  }

  /** Tell whoever works ahead what an edit would make of the design; nothing of it is kept. */
  foresee(change: (design: Design) => Design) {
    const then = change(this.current.design)
    if (then === this.current.design) return
    this.giveWay()
    this.foreseers.forEach((listener) => listener(then))
  }

  /** What is being worked out of the state before this figure is of little use by now, and the picture of the next one is waited for: it is
   * let go, and asked again when nothing is typed for a while. */
  private giveWay() {
    if (!this.current.evaluating || this.closed) return
    const run = ++this.evaluationRun
    this.asked?.abort()
    window.setTimeout(() => run === this.evaluationRun && !this.closed && void this.evaluate(), TYPED_MS)
  }

  /** Edits with one label within a second count as one step of undo; those of one drag do however long it takes. */
  edit(label: string, change: (design: Design) => Design) {
    const before = this.current.design
    const after = change(before)
    if (after === before) return
    const now = Date.now()
    const going = now - this.lastAt < 1000 || ONE_DRAG.test(label)
    if (!(label === this.lastLabel && going && this.past.length)) {
      this.past.push({ design: before, label })
      if (this.past.length > HISTORY) this.past.shift()
    }
    this.lastLabel = label
    this.lastAt = now
    this.future = []
    this.become(after)
  }

  /** Take an answer of the server: parts, joints and rows that it changes or adds, and what a person must know of it. */
  patch(label: string, patch: Patch) {
    this.edit(label, (now) => withPatch(now, patch))
    if (patch.told.length > 0) this.update({ told: patch.told })
  }

  /** What was told of a change has been read. */
  heard = () => {
    this.update({ told: [] })
    if (!this.older) return
    // saved as it is said now, so that it is told once
    this.older = false
    if (this.current.design === this.saved) this.saved = { ...this.saved }
    void this.saveNow()
  }

  undo = () => this.step(this.past, this.future)
  redo = () => this.step(this.future, this.past)

  private step(from: Step[], to: Step[]) {
    const entry = from.pop()
    if (!entry) return
    to.push({ design: this.current.design, label: entry.label })
    this.lastLabel = ''
    this.become(entry.design)
  }

  private become(design: Design) {
    const { parts, joints, mounts, settings, catalogue } = this.current.design
    const partsChanged =
      design.parts !== parts ||
      design.joints !== joints ||
      design.mounts !== mounts ||
      design.settings !== settings ||
      design.catalogue !== catalogue
    this.update({ design, canUndo: this.past.length > 0, canRedo: this.future.length > 0 })
    this.keep()
    window.clearTimeout(this.keeping)
    this.keeping = window.setTimeout(() => this.keepStepsNow(), REST_MS)
    if (this.current.save.kind !== 'conflict') {
      this.update({ save: { kind: 'unsaved' } })
      this.schedule(SAVE_PAUSE_MS)
    }
    // an end that is being moved is drawn first; its parts follow when it rests
    window.clearTimeout(this.evaluation)
    if (partsChanged) void this.evaluate()
    else this.evaluation = window.setTimeout(() => void this.evaluate(), REST_MS)
  }

  private update(part: Partial<SessionState>) {
    this.current = { ...this.current, ...part }
    this.listeners.forEach((listener) => listener())
  }

  /** What is not saved goes to the browser's storage a moment later, or when the page is left: an edit is drawn first. */
  private keep() {
    this.toKeep = true
    window.clearTimeout(this.keepingEdit)
    this.keepingEdit = window.setTimeout(this.keepNow, KEEP_MS)
  }

  private keepNow = () => {
    window.clearTimeout(this.keepingEdit)
    if (!this.toKeep) return
    this.toKeep = false
    const { jobId, version, design } = this.current
    stash.keep(jobId, { version, design, base: this.saved, sent: this.pendingSave?.design })
  }

  private drop(jobId: string) {
    window.clearTimeout(this.keepingEdit)
    this.toKeep = false
    stash.drop(jobId)
  }

  /** Undo and redo are there after the page is loaded again. */
  private keepStepsNow() {
    window.clearTimeout(this.keeping)
    const { jobId, design, version } = this.current
    const { past, future } = this
    if (past.length + future.length > 0)
      void stash.ownKey(jobId).then((key) => keepSteps(key, { design, version, past, future }))
  }

  private async restoreSteps() {
    const { jobId, design, version } = this.current
    const kept = await keptSteps(await stash.ownKey(jobId), design, version)
    if (!kept || this.closed || this.current.design !== design) return
    this.past = [...kept.past, ...this.past.filter((one) => one.label !== RESTORED)]
    this.future = kept.future
    this.update({ canUndo: this.past.length > 0, canRedo: this.future.length > 0 })
  }

  /** Take over what this page, or one that was closed, left unsaved. */
  private async restore() {
    const opened = this.current.design
    const kept = await stash.takeOver(this.current.jobId)
    if (!kept || this.closed || this.current.design !== opened) return
    const { jobId, version, basedOn } = this.current
    if (JSON.stringify(kept.design) === JSON.stringify(opened)) return this.drop(jobId)
    this.past.push({ design: opened, label: RESTORED })
    this.update({ design: kept.design, canUndo: true })
    // the page was left before the answer to its last save came: what stands there is that save
    const own = kept.sent !== undefined && JSON.stringify(kept.sent) === JSON.stringify(opened)
    if (kept.version === version || own) {
      this.update({ save: { kind: 'unsaved' } })
      this.schedule(SAVE_PAUSE_MS)
    } else {
      const theirs = { job_id: jobId, design: opened, version, based_on: basedOn, saved_at: this.savedAt, told: [] }
      this.twoDrafts(theirs, kept.base ?? null)
    }
    void this.evaluate()
  }

  private async evaluate() {
    const run = ++this.evaluationRun
    this.update({ evaluating: true })
    // what was asked before is of no use any more, and the server need not send it
    this.asked?.abort()
    this.asked = new AbortController()
    const { signal } = this.asked
    if (this.pictures)
      await Promise.race([this.pictures(), new Promise((done) => window.setTimeout(done, PICTURES_MS))])
    if (run !== this.evaluationRun || this.closed) return
    try {
      const evaluation = await answer(api.POST('/api/evaluate', { body: { design: this.current.design }, signal }))
      if (run === this.evaluationRun && !this.closed) this.update({ evaluation, evaluating: false })
    } catch (error) {
      if (run !== this.evaluationRun || this.closed) return
      this.update({ evaluating: false })
      if (error instanceof ApiProblem && error.passing)
        window.setTimeout(() => run === this.evaluationRun && !this.closed && void this.evaluate(), RETRY_MS)
    }
  }

  private schedule(delay: number) {
    window.clearTimeout(this.timer)
    this.timer = window.setTimeout(() => void this.saveNow(), delay)
  }

  /** Save what stands now; true when the server holds it. */
  async saveNow(): Promise<boolean> {
    if (this.saving) {
      await new Promise((done) => setTimeout(done, 50))
      return this.saveNow()
    }
    const { design, jobId, version } = this.current
    if (design === this.saved) return true
    if (this.current.save.kind === 'conflict') return false
    window.clearTimeout(this.timer)
    this.saving = true
    this.update({ save: { kind: 'saving' } })
    // the same id until it is answered: a repeat after a lost answer does no harm
    if (this.pendingSave?.design !== design) this.pendingSave = { id: newId(), design }
    this.keep()
    try {
      const found = await answer(
        api.PUT('/api/jobs/{job_id}/draft', {
          params: { path: { job_id: jobId }, header: { 'If-Match': String(version) } },
          body: { save_id: this.pendingSave.id, design },
        }),
      )
      this.saved = design
      this.update({ version: found.version })
      if (this.current.design === design) {
        this.drop(jobId)
        this.update({ save: { kind: 'saved' } })
      } else {
        this.keep()
        this.update({ save: { kind: 'unsaved' } })
        this.schedule(SAVE_PAUSE_MS)
      }
      return this.current.design === design
    } catch (error) {
      this.failed(error)
      return false
    } finally {
      this.saving = false
    }
  }

  private failed(error: unknown) {
    if (!(error instanceof ApiProblem)) throw error
    if (error.status === 409 && error.body.current) {
      const theirs = error.body.current as unknown as DraftOut
      // the newer draft may be this very edit, saved from a page that was closed a moment ago
      if (JSON.stringify(theirs.design) === JSON.stringify(this.current.design)) this.adopt(theirs)
      else this.twoDrafts(theirs, this.saved)
    } else if (error.passing || error.status >= 500) {
      // an error of the server's own may be gone at the next try, and the edit must not be lost with it
      this.update({ save: { kind: 'away', message: error.message } })
      if (!this.closed) this.schedule(RETRY_MS)
    } else {
      this.update({ save: { kind: 'refused', problem: error.body } })
    }
  }

  /** Somebody else saved: what only one of us changed goes together by itself, the rest is asked field by field. */
  private twoDrafts(theirs: DraftOut, base: Design | null) {
    const mine = this.current.design
    this.grewFrom = base
    this.update({ save: { kind: 'conflict', theirs, merge: null, asking: base !== null } })
    if (!base) return
    void this.askMerge({}).then((found) => {
      if (this.closed || this.current.save.kind !== 'conflict') return
      if (this.current.design !== mine) this.twoDrafts(found?.theirs ?? theirs, base)
      else if (found?.merged && found.clashes.length === 0) this.putIn(found)
      else this.update({ save: { kind: 'conflict', theirs: found?.theirs ?? theirs, merge: found, asking: false } })
    })
  }

  private async askMerge(take: Take): Promise<MergeOut | null> {
    const { jobId, design } = this.current
    if (!this.grewFrom) return null
    try {
      const body = { base: this.grewFrom, mine: design, take }
      return await answer(api.POST('/api/jobs/{job_id}/merge', { params: { path: { job_id: jobId } }, body }))
    } catch (error) {
      if (error instanceof ApiProblem) return null
      throw error
    }
  }

  /** End a conflict with both in one, of each field that both changed the one that is taken; false where they do not go together. */
  async putTogether(take: Take): Promise<boolean> {
    const found = await this.askMerge(take)
    if (!found?.merged) return false
    this.putIn(found)
    return true
  }

  private putIn(found: MergeOut) {
    if (!found.merged) return
    this.past.push({ design: this.current.design, label: 'mine' })
    const others = found.others.slice(0, 4).join('; ') + (found.others.length > 4 ? ' …' : '')
    this.adopt(found.theirs)
    this.update({
      design: found.merged,
      told: [
        `Somebody else saved this job meanwhile; theirs and yours are both in it now. Theirs: ${others || 'nothing else'}.`,
      ],
      save: { kind: 'unsaved' },
    })
    this.keep()
    this.schedule(SAVE_PAUSE_MS)
    void this.evaluate()
  }

  /** End a conflict with the newer version; mine stays one undo away. */
  takeTheirs() {
    if (this.current.save.kind !== 'conflict') return
    const { theirs } = this.current.save
    this.past.push({ design: this.current.design, label: 'mine' })
    this.adopt(theirs)
  }

  /** End a conflict by keeping mine as a branch beside the newer version. */
  async keepMineAsBranch(name: string): Promise<number> {
    if (this.current.save.kind !== 'conflict') throw new Error('no conflict')
    const { theirs } = this.current.save
    const { jobId, design, basedOn } = this.current
    const body = { save_id: newId(), name, based_on: basedOn, design }
    const found = await answer(api.POST('/api/jobs/{job_id}/branches', { params: { path: { job_id: jobId } }, body }))
    this.past.push({ design, label: 'mine' })
    this.adopt(theirs)
    return found.number
  }

  /** Note that the draft was sealed as a revision. */
  sealed(number: number) {
    this.update({ basedOn: number })
  }

  private adopt(theirs: DraftOut) {
    this.saved = theirs.design
    this.future = []
    this.lastLabel = ''
    this.drop(theirs.job_id)
    this.update({
      design: theirs.design,
      version: theirs.version,
      basedOn: theirs.based_on,
      save: { kind: 'saved' },
      canUndo: true,
      canRedo: false,
    })
    void this.evaluate()
  }
}
