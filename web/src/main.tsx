import "./theme.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import { AlternativesScreen } from "./features/alternatives";
import { BenchScreen } from "./features/bench";
import { KitScreen } from "./features/kits";
import { MatrixScreen } from "./features/matrix";
import { PromisesScreen } from "./features/promises";
import { RigShell, Start } from "./features/rigs";
import { RunSheetScreen } from "./features/runsheet";
import { SchoolsScreen } from "./features/schools";
import { WiringScreen } from "./features/wiring";
import { WorkshopScreen } from "./features/workshop";

const router = createBrowserRouter([
  { path: "/", element: <Start /> },
  { path: "/kit", element: <KitScreen /> },
  { path: "/kit/:kitId", element: <KitScreen /> },
  { path: "/workshop", element: <WorkshopScreen /> },
  {
    path: "/rigs/:rigId",
    element: <RigShell />,
    children: [
      { index: true, element: <Navigate to="promises" replace /> },
      { path: "promises", element: <PromisesScreen /> },
      { path: "functions", element: <MatrixScreen /> },
      { path: "schools", element: <SchoolsScreen /> },
      { path: "wiring", element: <WiringScreen /> },
      { path: "other-ways", element: <AlternativesScreen /> },
      { path: "run-sheet", element: <RunSheetScreen /> },
      { path: "bench", element: <BenchScreen /> },
    ],
  },
  { path: "*", element: <Navigate to="/" replace /> },
]);

const client = new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: false, retry: 1 } } });

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
