import "./theme.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import { Start } from "./features/start";
import { listen } from "./keeping";
import { FirstStage, RigShell } from "./rig";
import { SCREENS } from "./screens";

const kits = async () => ({ Component: (await import("./features/kits")).KitScreen });
const more = () => import("./features/start/more");
const workshop = async () => ({ Component: (await import("./features/workshop")).WorkshopScreen });

const router = createBrowserRouter([
  { path: "/", element: <Start /> },
  { path: "/new", lazy: async () => ({ Component: (await more()).NewRigScreen }), HydrateFallback: () => null },
  { path: "/bin", lazy: async () => ({ Component: (await more()).BinScreen }), HydrateFallback: () => null },
  { path: "/kit", lazy: kits, HydrateFallback: () => null },
  { path: "/kit/:kitId", lazy: kits, HydrateFallback: () => null },
  { path: "/workshop", lazy: workshop, HydrateFallback: () => null },
  { path: "/clock", lazy: async () => ({ Component: (await import("./features/prove")).ClockScreen }), HydrateFallback: () => null },
  { path: "/recipes", lazy: async () => ({ Component: (await import("./features/recipes")).RecipesScreen }), HydrateFallback: () => null },
  { path: "/log", lazy: async () => ({ Component: (await import("./features/log")).LogScreen }), HydrateFallback: () => null },
  { path: "/share", lazy: async () => ({ Component: (await import("./features/share")).ShareScreen }), HydrateFallback: () => null },
  { path: "/join", lazy: async () => ({ Component: (await import("./features/share")).JoinScreen }), HydrateFallback: () => null },
  {
    path: "/rigs/:rigId",
    element: <RigShell screens={SCREENS} />,
    HydrateFallback: () => null,
    children: [
      { index: true, element: <FirstStage to={SCREENS[0]?.path ?? ""} /> },
      ...SCREENS.map((screen) => ({ path: screen.path, lazy: screen.load })),
    ],
  },
  { path: "*", element: <Navigate to="/" replace /> },
]);

const client = new QueryClient({ 
  defaultOptions: {
    // The server is on this laptop: whether there is a network beyond it does not matter.
    queries: { refetchOnWindowFocus: false, retry: 1, networkMode: "always" },
    mutations: { networkMode: "always" },
  },
 });
listen(client);

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
