// The label of an item: who read it, what to look for, and the button for having read it.

import type { Label } from "../../api/client";
import { labelInWords, ReaderField, useReadLabels } from "../../parts/labels";

export function LabelCard({ label }: { label: Label }) {
  const { by, setBy, read, saving } = useReadLabels();
  const open = label.state === "unchecked" || label.state === "changed";
  return (
    <section className="mt-3 text-sm" aria-label="Label">
      <h3 className="font-semibold">Allergens by the label</h3>
      <p className={open ? "text-error" : ""}>
        {open && "? "}
        {labelInWords(label)}
      </p>
      {label.look_for.map((text) => (
        <p key={text}>Look for {text}.</p>
      ))}
      {open && (
        <div className="flex flex-wrap items-center gap-3 mt-1">
          <ReaderField by={by} setBy={setBy} />
          <button type="button" className="btn btn-xs" disabled={saving} onClick={() => read([label.item])}>
            Label read: {label.noted.length > 0 ? "just these" : "none on it"}
          </button>
        </div>
      )}
      <p className="quiet text-xs">
        Note what it names in "allergens" first. An aid, not clearance: the label and your local food code
        decide.
      </p>
    </section>
  );
}
