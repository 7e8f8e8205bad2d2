/** The application: the rod across the top, the places below it, and the pages made to be printed. */
import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";

import { isSaving } from "./api/saving";
import { KeysProvider } from "./pieces/keys";
import { useAsksBeforeLeaving } from "./pieces/leaving";
import { OrNotShown } from "./pieces/not-shown";
import { NoticeProvider } from "./pieces/notice";
import { TopRod } from "./top-rod";
import { PLACES } from "./places";

const HandingOver = lazy(async () => ({ default: (await import("./places/handing-over/handing-over")).HandingOver }));
const TheCase = lazy(async () => ({ default: (await import("./places/handing-over/the-case")).TheCase }));

export function App() {
  useAsksBeforeLeaving(isSaving);
  return (
    <NoticeProvider>
      <KeysProvider places={PLACES}>
        <a href="#place" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">
          Skip to the place
        </a>
        <div className="print:hidden">
          <TopRod />
        </div>
        <main id="place" tabIndex={-1} className="outline-none">
          <OrNotShown>
            <Suspense>
              <Routes>
                {PLACES.map(({ path, Place }) => (
                  <Route key={path} path={path} element={<Place />} />
                ))}
                <Route path="/handing-over" element={<HandingOver />} />
                <Route path="/the-case" element={<TheCase />} />
                <Route path="*" element={<Navigate to="/counting-board" replace />} />
              </Routes>
            </Suspense>
          </OrNotShown>
        </main>
      </KeysProvider>
    </NoticeProvider>
  );
}
