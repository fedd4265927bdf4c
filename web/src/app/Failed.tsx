/** What is shown when a screen fails, or an address leads nowhere. Saved work is not touched by either. */
import { useRouteError } from 'react-router';

export function Failed() {
  const error = useRouteError();
  return (
    <main className="grid h-dvh place-content-center gap-3 text-center">
      <p className="text-[15px]">
        {error instanceof Error ? `The studio stumbled: ${error.message}.` : 'Nothing is at this address.'}
      </p>
      {error instanceof Error && <p className="quiet">What you did up to here is kept.</p>}
      <div className="flex justify-center gap-2">
        {error instanceof Error && (
          <button type="button" className="btn btn-primary btn-sm" onClick={() => location.reload()}>
            Open it again
          </button>
        )}
        <a className="btn btn-sm" href="/">
          All projects
        </a>
      </div>
    </main>
  );
}
