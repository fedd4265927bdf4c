import 'reflect-metadata';
import '@fontsource-variable/hanken-grotesk/wght.css';
import './app/theme.css';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { Failed } from './app/Failed.tsx';
import { StartPage } from './app/StartPage.tsx';
import { Studio } from './app/Studio.tsx';
import { useChoice } from './state/choice.ts';

const showTheme = () => {
  document.documentElement.dataset.theme = useChoice.getState().theme;
};
useChoice.subscribe(showTheme);
showTheme();

const router = createBrowserRouter([
  { path: '/', element: <StartPage />, errorElement: <Failed /> },
  { path: '/p/:project/:look?/:step?', element: <Studio />, errorElement: <Failed /> },
  { path: '*', element: <Failed /> },
]);

createRoot(document.getElementById('root')!).render(<RouterProvider router={router} />);
