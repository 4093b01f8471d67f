import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { database } from '../store/database';
import { loadDemo } from '../store/demo';
import { Bench } from './bench/Bench';
import { measuring } from './bench/measure/measuring';
import { starting } from './bench/prepare/starting';
import { Desk } from './desk/Desk';
import { queryClient } from './queryClient';
import { Rubrics } from './rubrics/Rubrics';
import { Sheet } from './sheet/Sheet';
import { NotFound } from './shell/NotFound';
import { Student } from './students/Student';
import './theme.css';

const router = createBrowserRouter([
  { path: '/', element: <Desk />, errorElement: <NotFound /> },
  { path: '/takes/:id', element: <Bench />, errorElement: <NotFound /> },
  { path: '/takes/:id/sheet', element: <Sheet />, errorElement: <NotFound /> },
  { path: '/takes/:id/:step', element: <Bench />, errorElement: <NotFound /> },
  { path: '/students/:id', element: <Student />, errorElement: <NotFound /> },
  { path: '/rubrics', element: <Rubrics />, errorElement: <NotFound /> },
  { path: '/rubrics/:id', element: <Rubrics />, errorElement: <NotFound /> },
  { path: '*', element: <NotFound /> },
]);

// The demo fills an empty database once; its marked takes are measured like any other.
const added = await loadDemo(database).catch(() => []);
for (const id of added) measuring.enqueue(id);
void measuring.resume();
void starting.resume();

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
      <Toaster position="bottom-center" toastOptions={{ style: { background: 'var(--color-ink)', color: 'var(--color-sheet)', border: 'none', fontFamily: 'var(--font-sans)' } }} />
    </QueryClientProvider>
  </StrictMode>,
);
