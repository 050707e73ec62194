import { createBrowserRouter, Navigate } from 'react-router';
import { Frame } from '../frame/Frame.tsx';
import { NotHere } from '../frame/NotHere.tsx';
import { ShelfPage } from '../shelf/ShelfPage.tsx';
import { StudyFailed } from '../study/StudyFailed.tsx';
import { StudyFrame } from '../study/StudyFrame.tsx';

/** Stations load on demand; the shelf is in the first script. */
export const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <NotHere />,
    hydrateFallbackElement: <p className="p-8 text-soft">Opening…</p>,
    children: [
      { path: '/', element: <ShelfPage /> },
      { path: '/logs', lazy: async () => ({ Component: (await import('../logs/LogsPage.tsx')).LogsPage }) },
      { path: '/runs', lazy: async () => ({ Component: (await import('../runs/AllRunsPage.tsx')).AllRunsPage }) },
      { path: '/runs/mounts', lazy: async () => ({ Component: (await import('../runs/AllMountsPage.tsx')).AllMountsPage }) },
      { path: '/runs/parts', lazy: async () => ({ Component: (await import('../parts/AllPartsPage.tsx')).AllPartsPage }) },
      { path: '/limits', lazy: async () => ({ Component: (await import('../limits/LimitsPage.tsx')).LimitsPage }) },
      { path: '/scratch', lazy: async () => ({ Component: (await import('../scratch/ScratchPage.tsx')).ScratchPage }) },
      { path: '/search', lazy: async () => ({ Component: (await import('../search/SearchPage.tsx')).SearchPage }) },
      { path: '/words', lazy: async () => ({ Component: (await import('../words/WordsPage.tsx')).WordsPage }) },
      { path: '/practice', lazy: async () => ({ Component: (await import('../practice/PracticePage.tsx')).PracticePage }) },
      { path: '/bench', lazy: async () => ({ Component: (await import('../bench/BenchPage.tsx')).BenchPage }) },
      { path: '/instruments', lazy: async () => ({ Component: (await import('../instruments/InstrumentsPage.tsx')).InstrumentsPage }) },
      {
        path: '/studies/:studyId',
        element: <StudyFrame />,
        children: [
          {
            errorElement: <StudyFailed />,
            children: [
              { index: true, element: <Navigate to="ask" replace /> },
              { path: 'practice', lazy: async () => ({ Component: (await import('../practice/ExercisePage.tsx')).ExercisePage }) },
              { path: 'ask', lazy: async () => ({ Component: (await import('../ask/AskPage.tsx')).AskPage }) },
              { path: 'look', lazy: async () => ({ Component: (await import('../look/LookPage.tsx')).LookPage }) },
              { path: 'look/map', lazy: async () => ({ Component: (await import('../look/MapPage.tsx')).MapPage }) },
              { path: 'look/camera', lazy: async () => ({ Component: (await import('../look/CameraPage.tsx')).CameraPage }) },
              { path: 'equip', lazy: async () => ({ Component: (await import('../equip/EquipPage.tsx')).EquipPage }) },
              { path: 'hold', lazy: async () => ({ Component: (await import('../hold/HoldPage.tsx')).HoldPage }) },
              { path: 'plan', lazy: async () => ({ Component: (await import('../plan/PlanPage.tsx')).PlanPage }) },
              { path: 'plan/factors', lazy: async () => ({ Component: (await import('../plan/FactorsPage.tsx')).FactorsPage }) },
              { path: 'plan/order', lazy: async () => ({ Component: (await import('../plan/OrderPage.tsx')).OrderPage }) },
              { path: 'plan/parts', lazy: async () => ({ Component: (await import('../plan/PartsPage.tsx')).PartsPage }) },
              { path: 'mount', lazy: async () => ({ Component: (await import('../mount/MountPage.tsx')).MountPage }) },
              { path: 'mount/steps', lazy: async () => ({ Component: (await import('../mount/StepsPage.tsx')).StepsPage }) },
              { path: 'mount/pads', lazy: async () => ({ Component: (await import('../mount/PadsPage.tsx')).PadsPage }) },
              { path: 'mount/paper', lazy: async () => ({ Component: (await import('../mount/paper/PaperPage.tsx')).PaperPage }) },
              { path: 'run', lazy: async () => ({ Component: (await import('../run/record/RunsPage.tsx')).RunsPage }) },
              { path: 'run/import', lazy: async () => ({ Component: (await import('../run/import/ImportPage.tsx')).ImportPage }) },
              { path: 'run/:runId', lazy: async () => ({ Component: (await import('../run/RunPage.tsx')).RunPage }) },
              { path: 'read', lazy: async () => ({ Component: (await import('../read/ReadPage.tsx')).ReadPage }) },
              { path: 'read/normal', lazy: async () => ({ Component: (await import('../read/normal/NormalPage.tsx')).NormalPage }) },
              { path: 'judge', lazy: async () => ({ Component: (await import('../judge/pair/JudgePage.tsx')).JudgePage }) },
              { path: 'judge/all', lazy: async () => ({ Component: (await import('../judge/lineUp/AllPage.tsx')).AllPage }) },
              { path: 'judge/steps', lazy: async () => ({ Component: (await import('../judge/lineUp/StepsPage.tsx')).StepsPage }) },
              { path: 'judge/factors', lazy: async () => ({ Component: (await import('../judge/lineUp/FactorsPage.tsx')).FactorsPage }) },
              { path: 'judge/choice', lazy: async () => ({ Component: (await import('../judge/lineUp/ChoicePage.tsx')).ChoicePage }) },
              { path: 'judge/carry', lazy: async () => ({ Component: (await import('../judge/lineUp/CarryPage.tsx')).CarryPage }) },
              { path: 'judge/held', lazy: async () => ({ Component: (await import('../judge/held/HeldPage.tsx')).HeldPage }) },
              { path: 'judge/what-if', lazy: async () => ({ Component: (await import('../judge/whatIf/WhatIfPage.tsx')).WhatIfPage }) },
              { path: 'judge/odd', lazy: async () => ({ Component: (await import('../judge/lineUp/OddPage.tsx')).OddPage }) },
              { path: 'report', lazy: async () => ({ Component: (await import('../report/ReportPage.tsx')).ReportPage }) },
            ],
          },
        ],
      },
      { path: '*', element: <NotHere /> },
    ],
  },
]);
