import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { ApiProblem, answer, api, type TaskOut } from '../../api'

const under = (state: string | undefined) => state === 'queued' || state === 'running'

function last<A>(key: string): A | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as A | null
  } catch {
    return null
  }
}

function keep(key: string, asked: unknown) {
  try {
    if (asked === null) localStorage.removeItem(key)
    else localStorage.setItem(key, JSON.stringify(asked))
  } catch {
    /* a full or forbidden storage: the answer is shown while the page stands */
  }
}

/**
 * Work that a worker does beside the server: asked for, followed, stopped. What was asked for is kept with the job, so that its
 * answer is found when one comes back to the page.
 */
export function useTask<A extends { id: string }>(kind: string, jobId: string, ask: (asked: A) => Promise<TaskOut>) {
  const key = `tirante:${kind}:${jobId}`
  const [asked, setAsked] = useState(() => last<A>(key))
  const begin = useMutation({
    mutationFn: (next: A) => {
      keep(key, next)
      setAsked(next)
      return ask(next)
    },
  })
  const task = useQuery({
    queryKey: ['task', asked?.id],
    queryFn: ({ signal }) =>
      answer(api.GET('/api/tasks/{task_id}', { params: { path: { task_id: asked!.id } }, signal })),
    enabled: asked !== null && !begin.isPending && !begin.error,
    refetchInterval: ({ state }) => (under(state.data?.state) ? 300 : false),
    retry: (count, error) => error instanceof ApiProblem && error.passing && count < 20,
  })
  const going =
    begin.isPending || (asked !== null && !begin.error && !task.error && under(task.data?.state ?? 'queued'))
  // kept for a week only: one that is not there any more is no fault
  const gone = task.error instanceof ApiProblem && task.error.status === 404
  return {
    asked,
    going,
    task: task.data ?? null,
    came: asked && !going ? (task.data ?? null) : null,
    trouble: begin.error ?? (gone ? null : task.error),
    begin: (next: A) => begin.mutate(next),
    stop: () => {
      if (!asked) return
      const params = { path: { task_id: asked.id } }
      void api.POST('/api/tasks/{task_id}/stop', { params, body: {} }).then(() => task.refetch())
    },
    forget: () => {
      keep(key, null)
      setAsked(null)
    },
  }
}
