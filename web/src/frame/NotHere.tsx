import { Link, isRouteErrorResponse, useRouteError } from 'react-router';

/** An address that leads nowhere, or a page that failed. */
export function NotHere() {
  const error = useRouteError();
  const failed = error !== undefined && error !== null && !isRouteErrorResponse(error);
  return (
    <main id="sheet" className="p-10">
      <h1>{failed ? 'This page failed.' : 'There is nothing here.'}</h1>
      <p className="mt-3 max-w-prose">
        {failed
          ? 'What you typed is kept in this browser. Reload the page; if it fails again, the server may have been updated meanwhile.'
          : 'The address may be old, or the study is in the trash.'}
      </p>
      <p className="mt-4">
        <Link to="/" className="underline">
          All studies
        </Link>
      </p>
    </main>
  );
}
