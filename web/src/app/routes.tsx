import { Suspense, lazy, type ComponentType } from 'react'
import { Navigate, createBrowserRouter } from 'react-router'
import { Busy } from '../ui'
import { JobPage } from './JobPage'
import { PageFailed } from './PageFailed'

/** A page that is fetched when it is gone to. */
function later(load: () => Promise<ComponentType>) {
  const Page = lazy(async () => ({ default: await load() }))
  return (
    <Suspense fallback={<Busy what="Opening" />}>
      <Page />
    </Suspense>
  )
}

const failed = <PageFailed />

export const router = createBrowserRouter([
  { path: '/', element: later(async () => (await import('../features/jobs')).JobsView), errorElement: failed },
  {
    path: '/catalogue',
    element: later(async () => (await import('../features/catalogue')).CatalogueView),
    errorElement: failed,
  },
  { path: '/rack', element: later(async () => (await import('../features/rack')).RackView), errorElement: failed },
  {
    path: '/people',
    element: later(async () => (await import('../features/people')).PeopleView),
    errorElement: failed,
  },
  {
    path: '/bench/:jobId',
    element: later(async () => (await import('../features/bench')).BenchView),
    errorElement: failed,
  },
  {
    path: '/sheet/:jobId/:number/:partId',
    element: later(async () => (await import('../features/sheet')).SheetView),
    errorElement: failed,
  },
  {
    path: '/jobs/:jobId',
    element: <JobPage />,
    errorElement: failed,
    children: [
      { index: true, element: later(async () => (await import('./FirstStation')).FirstStation) },
      {
        path: 'members/:partId?',
        element: later(async () => (await import('../features/members')).MembersStation),
      },
      {
        path: 'brackets/:partId?',
        element: later(async () => (await import('../features/brackets')).BracketsStation),
      },
      { path: 'jigs/:partId?', element: later(async () => (await import('../features/jigs')).JigsStation) },
      { path: 'pack', element: later(async () => (await import('../features/cutting')).PackStation) },
      { path: 'survey', element: later(async () => (await import('../features/survey')).SurveyStation) },
      { path: 'layout', element: later(async () => (await import('../features/layout')).LayoutStation) },
      { path: 'cycle', element: later(async () => (await import('../features/cycle')).CycleStation) },
      { path: 'loads', element: later(async () => (await import('../features/loads')).LoadsStation) },
      { path: 'log', element: later(async () => (await import('../features/log')).LogStation) },
      { path: '*', element: <Navigate to="members" replace /> },
    ],
  },
  { path: '*', element: <Navigate to="/" replace /> },
])
