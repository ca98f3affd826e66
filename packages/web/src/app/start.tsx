import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { PAGES } from './router.js';
import { store } from './store.js';
import '../theme/chart-room.css';
import { Room } from '../theme/Room.js';

/** Shows the application in the page. */
export function start(): void {
  // the server lets in only styles that carry the nonce of this answer
  const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content;
  const styles = createCache({ key: 'kelp', nonce });

  const router = createBrowserRouter(PAGES);
  createRoot(document.getElementById('root')!).render(
    <StrictMode>
      <CacheProvider value={styles}>
        <Room>
          <Provider store={store}>
            <RouterProvider router={router} />
          </Provider>
        </Room>
      </CacheProvider>
    </StrictMode>,
  );
}
