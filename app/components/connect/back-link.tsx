import { Link, useParams } from "react-router";

/** The way back from a page under Connect. */
export function BackToConnections() {
  const { job } = useParams();
  return (
    <p className="mb-2">
      <Link to={`/jobs/${job}/connect`} className="inline-flex min-h-11 items-center underline underline-offset-4">
        Back to the connections
      </Link>
    </p>
  );
}
