// What comes out of a pot, ticked by its reader and not said by anybody yet: asked once, with the likely things ticked.

import type { Stage, TakeOut } from "../../api/client";
import { newTakeOut } from "../../parts/blank";
import { changeTakeOuts, linesUpTo } from "./garnish";
import { usePot } from "./usePot";

const BESIDE = "left in the sieve";

export function SieveQuestion({ stage, at }: { stage: Stage; at: number }) {
  const { preview, edit } = usePot();
  const lines = linesUpTo(stage.id, preview);
  const set = (taken: TakeOut[]) => edit(changeTakeOuts(at, taken));
  const assumed = stage.take_out.filter((one) => one.assumed);
  if (assumed.length === 0) return null;
  const ticked = new Set(assumed.flatMap((one) => one.of));
  const toggle = (id: string) => {
    if (ticked.has(id)) {
      const fewer = stage.take_out.map((one) =>
        one.assumed ? { ...one, of: one.of.filter((other) => other !== id) } : one,
      );
      return set(fewer.filter((one) => !one.assumed || one.of.length > 0));
    }
    const place = stage.take_out.findIndex((one) => one.assumed && one.spent_factor === null);
    const there = stage.take_out[place];
    if (there)
      return set(stage.take_out.map((one) => (one === there ? { ...one, of: [...one.of, id] } : one)));
    set([...stage.take_out, { ...newTakeOut(), name: BESIDE, mass: null, of: [id], assumed: true }]);
  };
  const settle = () => set(stage.take_out.map((one) => ({ ...one, assumed: false })));
  return (
    <fieldset className="sheet px-3 py-2 mx-3 my-1 text-sm flex flex-wrap gap-x-4 gap-y-1 items-center">
      <legend className="font-semibold px-1">? What stays in the sieve, or comes out for good?</legend>
      {lines.map((line) => (
        <label key={`${line.stage}/${line.id}`} className="flex items-center gap-1">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={ticked.has(line.id)}
            onChange={() => toggle(line.id)}
          />
          {line.name}
        </label>
      ))}
      <button type="button" className="btn btn-xs btn-primary" onClick={settle}>
        That is so
      </button>
    </fieldset>
  );
}
