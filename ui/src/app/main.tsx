import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes, useParams } from "react-router";
import { DesignsPage } from "../features/home/DesignsPage";
import { DropDesign } from "../features/home/DropDesign";
import { followTheme } from "../lib/settings";
import { Failed, Loading } from "../ui/States";
import { Contained } from "./Contained";
import { Notices } from "./Notices";
import { usePlace } from "./use-place";
import { VIEWS } from "./views";
import "./styles.css";

// Styles that dialogs put into the page carry the nonce of its policy.
const nonce = document.querySelector<HTMLMetaElement>("meta[property=csp-nonce]")?.nonce;
if (nonce) setNonce(nonce);
followTheme();

const DesignPage = lazy(() => import("./DesignPage"));
const ShelfPage = lazy(() => import("../features/shelf/ShelfPage"));

/** A design of its own for each address: nothing is carried from one to the next. */
function Design() {
  const { id, view } = useParams();
  const known = VIEWS.find(([name]) => name === view)?.[0];
  return known ? <DesignPage key={id} view={known} /> : NOT_HERE;
}

const NOT_HERE = <Failed title="There is no such page" reason="Nothing is at this address." />;

/** What is at each address. */
function Pages() {
  usePlace();
  return (
    <Suspense fallback={<Loading what="Opening the page" />}>
      <Routes>
        <Route path="/" element={<DesignsPage />} />
        <Route path="/d/:id" element={<Navigate to="plan" replace />} />
        <Route path="/d/:id/:view" element={<Design />} />
        <Route path="/shelf" element={<ShelfPage />} />
        <Route path="*" element={NOT_HERE} />
      </Routes>
    </Suspense>
  );
}

// The server is this machine: what the browser thinks of the network says nothing about it.
const queries = new QueryClient({
  defaultOptions: {
    queries: { networkMode: "always", refetchOnReconnect: false },
    mutations: { networkMode: "always" },
  },
});
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <Contained>
          <BrowserRouter>
            <Pages />
            <Notices />
            <DropDesign />
          </BrowserRouter>
        </Contained>
      </QueryClientProvider>
    </StrictMode>,
  );
}
