import type { RouteObject } from 'react-router';
import { ProjectList } from '../projects/ProjectList.js';
import { PageError } from './PageError.js';

/** The pages by their addresses. */
export const PAGES: RouteObject[] = [
  {
    errorElement: <PageError />,
    // neither page needs anything from the server to show that it is on its way
    HydrateFallback: () => null,
    children: [
      { path: '/', element: <ProjectList /> },
      {
        path: '/reference',
        lazy: async () => ({ Component: (await import('../reference/Reference.js')).Reference }),
      },
      {
        path: '/guide/:page?',
        lazy: async () => ({ Component: (await import('../guide/Guide.js')).Guide }),
      },
      // the 3D view is most of the code: it comes when a project is opened
      {
        path: '/project/:id',
        lazy: async () => {
          // what draws comes in tasks of its own: all at once would hold the page up
          await import('../view/renderer.js');
          await import('../view/View.js');
          return { Component: (await import('./Workbench.js')).Workbench };
        },
      },
    ],
  },
];
