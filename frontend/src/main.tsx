/** Where the browser begins: fonts, colours, and the application in its page. */
import "@fontsource-variable/gabarito";
import "@fontsource-variable/atkinson-hyperlegible-next";
// Greek and Cyrillic, which the others do not have; fetched where there is such a letter.
import "@fontsource-variable/commissioner";
import "./tokens.css";

import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";

import { queries } from "./api/queries";
import { App } from "./app";
import { OrNotShown } from "./pieces/not-shown";

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <OrNotShown>
          <App />
        </OrNotShown>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
