import "./fonts.css";
import "./app.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";

import { Boundary } from "./app/ErrorBoundary";
import { Opening } from "./app/Opening";
import { preload } from "./app/preload";
import { Banner } from "./frame/Banner";

const client = new QueryClient({
  defaultOptions: { queries: { retry: false, refetchOnWindowFocus: true, staleTime: 5_000 } },
});

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <div className="flex h-full flex-col">
          <div className="min-h-0 flex-1">
            <Boundary>
              <Opening />
            </Boundary>
          </div>
          <Banner />
        </div>
      </QueryClientProvider>
    </StrictMode>,
  );
  preload();
}
