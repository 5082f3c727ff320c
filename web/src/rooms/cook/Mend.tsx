// Asks for the one missing fact of a line, in its place.

import { Link } from "react-router";
import type { Problem } from "../../api/client";
import { WeighOne } from "../../parts/WeighOne";

export function Mend({ problem }: { problem: Problem }) {
  if (problem.code === "missing_weight" && problem.item && problem.unit) {
    return <WeighOne item={problem.item} unit={problem.unit} message={problem.message} />;
  }
  return (
    <span className="text-error text-sm">
      {problem.message}{" "}
      {problem.code === "missing_price" && problem.item && (
        <Link className="link" to={`/buy/${problem.item}`}>
          record its price
        </Link>
      )}
    </span>
  );
}
