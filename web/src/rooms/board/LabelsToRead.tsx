// The labels of the soups on sale that nobody has read yet: what to look for on each, and one click for having read it.

import { useState } from "react";
import { Link } from "react-router";
import type { Label } from "../../api/client";
import { Table } from "../../parts/kit/Table";
import { ReaderField, useReadLabels } from "../../parts/labels";

export function LabelsToRead({ labels }: { labels: Label[] }) {
  const { by, setBy, read, saving } = useReadLabels();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const toggle = (item: string) => {
    const now = new Set(chosen);
    if (!now.delete(item)) now.add(item);
    setChosen(now);
  };
  if (labels.length === 0) return null;
  return (
    <section className="mt-5 text-sm" aria-label="Labels to read">
      <div className="flex flex-wrap items-center gap-3 mb-1">
        <h2 className="font-semibold text-base">
          {labels.length === 1 ? "1 label" : `${labels.length} labels`} to read
        </h2>
        <span className="no-print flex flex-wrap items-center gap-3">
          <ReaderField by={by} setBy={setBy} />
          <button
            type="button"
            className="btn btn-xs"
            disabled={chosen.size === 0 || saving}
            onClick={() => {
              read([...chosen]);
              setChosen(new Set());
            }}
          >
            These {chosen.size} are read, and name just what is noted
          </button>
        </span>
      </div>
      <Table
        caption="Labels that nobody has read"
        className="w-auto"
        heads={[
          { text: "Choose", unseen: true, className: "no-print" },
          { text: "Item" },
          { text: "Article" },
          { text: "Noted" },
          { text: "Look for" },
        ]}
      >
        {labels.map((one) => (
          <tr key={one.item}>
            <td className="no-print">
              <label className="flex items-center">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  aria-label={`Label of ${one.name} is read`}
                  checked={chosen.has(one.item)}
                  onChange={() => toggle(one.item)}
                />
              </label>
            </td>
            <th scope="row">
              <Link className="link link-hover" to={`/buy/${one.item}`}>
                {one.name}
              </Link>
            </th>
            <td>
              {one.article}
              {one.state === "changed" && <span className="text-error"> another one than was read</span>}
            </td>
            <td>{one.noted.join(", ")}</td>
            <td>{one.look_for.join("; ")}</td>
          </tr>
        ))}
      </Table>
    </section>
  );
}
