import { isRouteErrorResponse } from "react-router";

/** What is shown in place of a page that cannot be shown. */
export function ErrorPage({ error }: { error: unknown }) {
  const known = isRouteErrorResponse(error);
  return (
    <>
      <title>Something went wrong – Humble Hound</title>
      <h1 className="text-2xl">
        {known && error.status === 404
          ? "Not found"
          : known && error.status === 403
            ? "Not for you"
            : "Something went wrong"}
      </h1>
      <p className="mt-3 max-w-prose">
        {known
          ? String(error.data || error.statusText)
          : "The app could not show this page. What you logged is kept. Try again in a moment; if it stays, tell a lead."}
      </p>
      <p className="mt-5">
        <a className="btn" href="/round">
          To the round
        </a>
      </p>
    </>
  );
}
