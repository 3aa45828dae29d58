/** Routes: every page is loaded when it is first opened. */
import { ThemeProvider } from '@mui/material/styles';
import { MutationCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { createBrowserRouter } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { keyOf } from './api/ask';
import { ApiProblem } from './api/call';
import { TellProvider } from './design/feedback';
import { theme } from './design/theme';
import { SignIn } from './session/SignIn';
import { Broken, Shell } from './shell/Shell';

const queries: QueryClient = new QueryClient({
  // The foot offers to undo the last action: from here on it knows that it has to ask what that is.
  mutationCache: new MutationCache({
    onSuccess: () => void queries.invalidateQueries({ queryKey: keyOf(api.today.shelf) }),
  }),
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      refetchOnWindowFocus: false,
      retry: (times, error) => !(error instanceof ApiProblem && error.status >= 400) && times < 2,
    },
  },
});

const router = createBrowserRouter([
  { path: '/sign-in', element: <SignIn /> },
  { path: '/first-visit', lazy: async () => ({ Component: (await import('./session/FirstVisit')).FirstVisit }) },
  { path: '/join/:token', lazy: async () => ({ Component: (await import('./session/Join')).Join }) },
  { path: '/begin', lazy: async () => ({ Component: (await import('./moving-in/Begin')).Begin }) },
  {
    path: '/',
    element: <Shell />,
    hydrateFallbackElement: <></>,
    errorElement: <Broken />,
    children: [
      { index: true, lazy: async () => ({ Component: (await import('./today/Today')).Today }) },
      { path: 'intake', lazy: async () => ({ Component: (await import('./intake/Batches')).Batches }) },
      { path: 'intake/:id', lazy: async () => ({ Component: (await import('./intake/Batch')).Batch }) },
      { path: 'matching', lazy: async () => ({ Component: (await import('./matching/Matching')).Matching }) },
      { path: 'matching/by-hand', lazy: async () => ({ Component: (await import('./matching/ByHand')).ByHand }) },
      { path: 'catalog', lazy: async () => ({ Component: (await import('./catalog/Catalog')).Catalog }) },
      { path: 'catalog/sheet', lazy: async () => ({ Component: (await import('./catalog/sheet/Sheet')).Sheet }) },
      { path: 'catalog/found', lazy: async () => ({ Component: (await import('./enrichment/Found')).Found }) },
      {
        path: 'catalog/proofread',
        lazy: async () => ({ Component: (await import('./enrichment/Proofread')).Proofread }),
      },
      { path: 'catalog/compose', lazy: async () => ({ Component: (await import('./enrichment/Compose')).Compose }) },
      { path: 'catalog/families', lazy: async () => ({ Component: (await import('./enrichment/Gather')).Gather }) },
      { path: 'catalog/new', lazy: async () => ({ Component: (await import('./catalog/NewProduct')).NewProduct }) },
      {
        path: 'catalog/product/:id',
        lazy: async () => ({ Component: (await import('./catalog/product/ProductPage')).ProductPage }),
      },
      { path: 'files', lazy: async () => ({ Component: (await import('./files/Files')).Files }) },
      { path: 'pictures', lazy: async () => ({ Component: (await import('./pictures/Library')).Library }) },
      { path: 'causes', lazy: async () => ({ Component: (await import('./causes/Causes')).Causes }) },
      { path: 'listings', lazy: async () => ({ Component: (await import('./listings/Listings')).Listings }) },
      { path: 'places/:id/:tab?', lazy: async () => ({ Component: (await import('./channels/Place')).Place }) },
      { path: 'feeds', lazy: async () => ({ Component: (await import('./feeds/Feeds')).Feeds }) },
      { path: 'feeds/:id', lazy: async () => ({ Component: (await import('./feeds/Feed')).Feed }) },
      { path: 'channels/joined', lazy: async () => ({ Component: (await import('./channels/Joined')).Joined }) },
      { path: 'channels', lazy: async () => ({ Component: (await import('./channels/Channels')).Channels }) },
      { path: 'attributes', lazy: async () => ({ Component: (await import('./dictionary/Attributes')).Attributes }) },
      { path: 'categories', lazy: async () => ({ Component: (await import('./dictionary/Categories')).Categories }) },
      { path: 'company', lazy: async () => ({ Component: (await import('./company/Settings')).Settings }) },
      { path: 'history', lazy: async () => ({ Component: (await import('./today/History')).History }) },
      { path: '*', element: <Broken /> },
    ],
  },
]);

export function App() {
  return (
    <ThemeProvider theme={theme}>
      <QueryClientProvider client={queries}>
        <TellProvider>
          <RouterProvider router={router} />
        </TellProvider>
      </QueryClientProvider>
    </ThemeProvider>
  );
}
