import { Navigate, createBrowserRouter } from 'react-router'
import { BracketsStation } from '../features/brackets'
import { CatalogueView } from '../features/catalogue'
import { CycleStation } from '../features/cycle'
import { PackStation } from '../features/cutting'
import { JigsStation } from '../features/jigs'
import { JobsView } from '../features/jobs'
import { LayoutStation } from '../features/layout'
import { LoadsStation } from '../features/loads'
import { MembersStation } from '../features/members'
import { PlannedStation } from '../features/planned'
import { RackView } from '../features/rack'
import { FirstStation } from './FirstStation'
import { JobPage } from './JobPage'
import { PageFailed } from './PageFailed'

export const router = createBrowserRouter([
  { path: '/', element: <JobsView />, errorElement: <PageFailed /> },
  { path: '/catalogue', element: <CatalogueView />, errorElement: <PageFailed /> },
  { path: '/rack', element: <RackView />, errorElement: <PageFailed /> },
  {
    path: '/jobs/:jobId',
    element: <JobPage />,
    errorElement: <PageFailed />,
    children: [
      { index: true, element: <FirstStation /> },
      { path: 'members/:partId?', element: <MembersStation /> },
      { path: 'brackets/:partId?', element: <BracketsStation /> },
      { path: 'jigs/:partId?', element: <JigsStation /> },
      { path: 'pack', element: <PackStation /> },
      { path: 'layout', element: <LayoutStation /> },
      { path: 'cycle', element: <CycleStation /> },
      { path: 'loads', element: <LoadsStation /> },
      { path: ':station', element: <PlannedStation /> },
    ],
  },
  { path: '*', element: <Navigate to="/" replace /> },
])
