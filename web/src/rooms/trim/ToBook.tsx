// The way back from a page of the Trim room to its yield book.

import { Link } from "react-router";

export function ToBook() {
  return (
    <p className="text-sm mb-1">
      <Link className="link" to="/trim">
        ← Yield book
      </Link>
    </p>
  );
}
