import { useMutation, useQueryClient } from '@tanstack/react-query'
import { answer, api, type Design } from '../../api'
import { newId, useSessionPart } from '../../app/session'

/** A layout that was asked for, and a print of the job that it was asked for, to tell whether that was changed since. */
export interface Laid {
  id: string
  print: string
}

export const keptKey = (jobId: string) => ['cuttings', jobId]

/** A layout kept as it came of its task. */
export function useKeep() {
  const jobId = useSessionPart((state) => state.jobId)
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (of: { task_id: string; index: number }) =>
      answer(
        api.POST('/api/jobs/{job_id}/cuttings', { params: { path: { job_id: jobId } }, body: { id: newId(), ...of } }),
      ),
    onSuccess: (all) => queries.setQueryData(keptKey(jobId), all),
  })
}

const prints = new WeakMap<object, string>()

/** A short print of a design: the same for the same text. */
export function printOf(design: Design): string {
  let known = prints.get(design)
  if (known === undefined) {
    let hash = 5381
    for (const letter of JSON.stringify(design)) hash = (hash * 33 + letter.charCodeAt(0)) | 0
    known = hash.toString(36)
    prints.set(design, known)
  }
  return known
}
