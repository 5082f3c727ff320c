// What is printed or sent: the price list as card, tent card or list, costing sheets, the allergen sheet, the workbook.

import { useState } from "react";
import { Link } from "react-router";
import { inWords } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { Panel } from "../../parts/kit/Panel";
import { SmallChoice } from "../../parts/Small";
import { usePapers } from "./usePapers";

const KINDS = [
  ["list", "price list", "Every serving with its price, to hang up or to send."],
  ["card", "card", "A card for the counter: soups with their prices, large."],
  ["tent", "tent card", "Folds in the middle and stands on the table: the same on both sides."],
  ["allergens", "allergens and diets", "What each soup holds, and who can eat it. An aid, not clearance."],
] as const;

export function PapersRoom() {
  const [channel, setChannel] = useState("");
  const [size, setSize] = useState<"a4" | "letter">("a4");
  const [marks, setMarks] = useState(false);
  const channels = useKitchen().data?.settings.channels ?? [];
  const papers = usePapers(channel);
  const query = new URLSearchParams({
    size,
    ...(channel ? { channel } : {}),
    ...(marks ? { allergens: "true" } : {}),
  });
  return (
    <>
      <div className="flex flex-wrap items-center gap-4 mb-3">
        <h1 className="text-xl font-semibold">Papers</h1>
        <SmallChoice
          label="prices"
          value={channel}
          choices={[["", "here"] as const, ...channels.map((one) => [one.id, one.name] as const)]}
          set={setChannel}
        />
        <SmallChoice<"a4" | "letter">
          label="paper"
          value={size}
          choices={[
            ["a4", "A4"],
            ["letter", "Letter"],
          ]}
          set={setSize}
        />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={marks}
            onChange={(event) => setMarks(event.target.checked)}
          />
          with marks of allergens
        </label>
        <Link className="btn btn-sm ml-auto" to="/price">
          Back to the prices
        </Link>
      </div>
      {papers.isError && <p role="alert">{inWords(papers.error)}</p>}
      {papers.data?.lack && (
        <p role="alert" className="sheet p-3 mb-3 border-l-4 border-warning max-w-3xl">
          {papers.data.lack}
        </p>
      )}
      {papers.data && papers.data.without_price.length > 0 && (
        <p role="note" className="sheet p-3 mb-3 max-w-3xl">
          On no list, as they have no price: {papers.data.without_price.join("; ")}.
        </p>
      )}
      <div className="grid grid-cols-2 gap-3 max-md:grid-cols-1">
        {KINDS.map(([kind, name, words]) => (
          <Panel key={kind} label={name} title={name[0]?.toUpperCase() + name.slice(1)} look="tight">
            <p className="quiet text-sm mb-2">{words}</p>
            <span className="flex gap-2">
              <a
                className={`btn btn-sm ${papers.data?.lack ? "btn-disabled" : "btn-primary"}`}
                href={`/api/papers/${kind}.pdf?${query}`}
                target="_blank"
                rel="noreferrer"
                aria-disabled={papers.data?.lack !== null}
              >
                PDF
              </a>
              <a
                className="btn btn-sm"
                href={`/api/papers/${kind}.html?${query}`}
                target="_blank"
                rel="noreferrer"
              >
                Open to print
              </a>
            </span>
          </Panel>
        ))}
        <Panel label="workbook" title="Workbook of the board" look="tight">
          <p className="quiet text-sm mb-2">
            Purchases, yields, stages, servings and prices as sheets whose cells compute: change a price in
            it, and every figure follows.
          </p>
          <a className="btn btn-sm btn-primary" href="/api/workbook.xlsx" download>
            XLSX
          </a>
        </Panel>
        <Panel label="costing sheet" title="Costing sheet of a pot" look="tight">
          <p className="quiet text-sm mb-2">
            Choose the pot: each serving's page has its costing sheet and its workbook.
          </p>
          <Link className="btn btn-sm" to="/price">
            Choose a serving
          </Link>
        </Panel>
      </div>
    </>
  );
}
