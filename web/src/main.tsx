import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router';
import { router } from './app/router.tsx';
import { applyTheme } from './data/settings.ts';
import { store } from './data/store.ts';
import './style.css';

applyTheme(store.getState().settings.theme);
matchMedia('(prefers-color-scheme: dark)').addEventListener('change', () => applyTheme(store.getState().settings.theme));

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
);
