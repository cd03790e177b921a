import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider, useParams } from "react-router";
import { DesignsPage } from "../features/home/DesignsPage";
import { ShelfPage } from "../features/shelf/ShelfPage";
import { followTheme } from "../lib/settings";
import { Failed } from "../ui/States";
import { DesignPage } from "./DesignPage";
import { Notices } from "./Notices";
import type { View } from "./views";
import "./styles.css";

// Styles that dialogs put into the page carry the nonce of its policy.
const nonce = document.querySelector<HTMLMetaElement>("meta[property=csp-nonce]")?.nonce;
if (nonce) setNonce(nonce);
followTheme();

/** A design of its own for each address: nothing is carried from one to the next. */
function Design({ view }: { view: View }) {
  const { id } = useParams();
  return <DesignPage key={id} view={view} />;
}

const router = createBrowserRouter([
  { path: "/", element: <DesignsPage /> },
  { path: "/d/:id", element: <Navigate to="plan" replace /> },
  { path: "/d/:id/plan", element: <Design view="plan" /> },
  { path: "/d/:id/run", element: <Design view="run" /> },
  { path: "/d/:id/cables", element: <Design view="cables" /> },
  { path: "/d/:id/options", element: <Design view="options" /> },
  { path: "/shelf", element: <ShelfPage /> },
  {
    path: "*",
    element: <Failed title="There is no such page" reason="Nothing is at this address." />,
  },
]);

const queries = new QueryClient();
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
        <Notices />
      </QueryClientProvider>
    </StrictMode>,
  );
}
