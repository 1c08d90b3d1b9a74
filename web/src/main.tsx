import "./theme.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import { BenchScreen } from "./features/bench";
import { PromisesScreen } from "./features/promises";
import { RigShell, Start } from "./features/rigs";
import { RunSheetScreen } from "./features/runsheet";
import { WiringScreen } from "./features/wiring";

const router = createBrowserRouter([
  { path: "/", element: <Start /> },
  {
    path: "/rigs/:rigId",
    element: <RigShell />,
    children: [
      { index: true, element: <Navigate to="promises" replace /> },
      { path: "promises", element: <PromisesScreen /> },
      { path: "wiring", element: <WiringScreen /> },
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
