import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { Refusal } from "./api/client";
import { App } from "./app/App";
import { DesignPage } from "./app/DesignPage";
import { NotThere } from "./app/NotThere";
import { AboutPage } from "./steps/about/AboutPage";
import { ComparePage } from "./steps/compare/ComparePage";
import { ShelfPage } from "./steps/shelf/ShelfPage";
import { SitesPage } from "./steps/sites/SitesPage";
import "./styles.css";

const cache = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 2_000,
      // A refusal stays one; only a server that cannot be reached is worth asking again.
      retry: (failures, error) => !(error instanceof Refusal) && failures < 3,
    },
  },
});

const GuidePage = lazy(() => import("./steps/guide/GuidePage"));
const guide = (
  <Suspense fallback={<p className="p-8 text-ink2">Loading the guide…</p>}>
    <GuidePage />
  </Suspense>
);

const router = createBrowserRouter([
  {
    element: <App />,
    errorElement: <NotThere />,
    children: [
      { path: "/", element: <SitesPage /> },
      { path: "/about", element: <AboutPage /> },
      { path: "/shelf", element: <ShelfPage /> },
      { path: "/designs/:designId", element: <Navigate to="overview" replace relative="path" /> },
      { path: "/guide", element: guide },
      { path: "/guide/:topic", element: guide },
      { path: "/designs/:designId/compare", element: <ComparePage /> },
      { path: "/designs/:designId/:step", element: <DesignPage /> },
      { path: "*", element: <NotThere /> },
    ],
  },
]);

const root = document.getElementById("root");
if (!root) throw new Error("the page has no root");
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={cache}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);

// The pages last seen can be read while the server is away; in development they would only be stale.
if (import.meta.env.PROD && "serviceWorker" in navigator)
  void navigator.serviceWorker.register("/offline.js");
