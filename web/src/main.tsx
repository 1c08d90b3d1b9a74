import "./theme.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode, type ComponentType } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import { Start } from "./features/start";
import { listen, recover } from "./keeping";
import { FirstStage, RigShell } from "./rig";
import { PAGES, SCREENS } from "./screens";
import { Broken } from "./ui";

/** A page whose script does not come fails as a page that breaks does: where it stands, with a way back. */
const arriving = (load: () => Promise<{ Component: ComponentType }>) => () =>
  load().catch((error: unknown) => ({
    Component: () => {
      throw error;
    },
  }));

const router = createBrowserRouter([
  {
    ErrorBoundary: Broken,
    children: [
      { path: "/", element: <Start />, ErrorBoundary: Broken },
      ...PAGES.map(({ path, load }) => ({ path, lazy: arriving(load), ErrorBoundary: Broken, HydrateFallback: () => null })),
      {
        path: "/rigs/:rigId",
        element: <RigShell screens={SCREENS} />,
        HydrateFallback: () => null,
        children: [
          { index: true, element: <FirstStage to={SCREENS[0]?.path ?? ""} /> },
          ...SCREENS.map(({ path, load }) => ({ path, lazy: arriving(load), ErrorBoundary: Broken })),
        ],
      },
      { path: "*", element: <Navigate to="/" replace /> },
    ],
  },
]);

const client = new QueryClient({
  defaultOptions: {
    // The server is on this laptop: whether there is a network beyond it does not matter.
    queries: { refetchOnWindowFocus: false, retry: 1, networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});
listen(client);

/** A database of the browser that does not answer holds nobody up: what it keeps comes back with the next start. */
const MOST_TO_WAIT_MS = 1_500;

void Promise.race([recover(), new Promise((resolve) => setTimeout(resolve, MOST_TO_WAIT_MS))]).then(() =>
  createRoot(document.getElementById("root")!).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  ),
);
