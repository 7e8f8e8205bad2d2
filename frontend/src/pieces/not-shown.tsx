/** What stands in a place's stead where it fails: what to do, and that nothing saved is lost. */
import type { ReactNode } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { useLocation } from "react-router";

/** Another place is tried anew. */
export function OrNotShown({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={NotShown} resetKeys={[pathname]}>
      {children}
    </ErrorBoundary>
  );
}

const NotShown = () => (
  <section role="alert" className="mx-auto max-w-2xl px-7 py-16">
    <h1 className="text-title">This page could not be shown</h1>
    <p className="mt-3">
      What you saved is safe. If Yellow Abacus was updated or started anew since you opened the page, loading it again is all it needs; if this comes back, go on in another
      place.
    </p>
    <p className="mt-5">
      <button type="button" className="press" data-main="true" onClick={() => window.location.reload()}>
        Load it again
      </button>
    </p>
  </section>
);
