// The allergens of a pot: what it contains, and what nobody has checked.

import { Link } from "react-router";
import { Panel } from "../../parts/kit/Panel";
import { usePot } from "./usePot";

export function AllergenCard() {
  const { preview } = usePot();
  if (!preview) return null;
  const { cells, others, asked, unchecked, ask } = preview.allergens;
  const named = (words: string[], group: string) =>
    words.every((one) => group.toLowerCase().startsWith(one)) ? group : `${group} (${words.join(", ")})`;
  const contains = [
    ...cells.map((cell) => named(cell.words, cell.group) + (cell.beside ? ", beside" : "")),
    ...others,
  ];
  return (
    <Panel label="Allergens" title="Allergens" look="tight" className="text-sm flex flex-col gap-1">
      <p>
        <span className="font-semibold">contains:</span>{" "}
        {contains.length > 0
          ? contains.join("; ")
          : unchecked.length > 0
            ? "?"
            : "none by the labels that were read"}
      </p>
      {unchecked.length > 0 && (
        <p>
          <span className="font-semibold text-error">? not checked:</span> {unchecked.join(", ")}{" "}
          <Link className="link no-print" to="/allergens">
            read the labels
          </Link>
        </p>
      )}
      {asked.length > 0 && (
        <p title={ask.join("; ")}>
          <span className="font-semibold text-error">? may hold:</span> {asked.join(", ")}
        </p>
      )}
      <p className="quiet text-xs">
        An aid, not clearance: the label and your local food code decide. Nothing here speaks of traces.
      </p>
    </Panel>
  );
}
