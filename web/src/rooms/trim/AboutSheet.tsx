// About a test: when, who, from whom, how long it took, and a note.

import type { KitchenHead } from "../../api/client";
import { DateInput } from "../../parts/kit/DateInput";
import { Panel } from "../../parts/kit/Panel";
import type { Sheet } from "./sheet";
import { Watch } from "./Watch";

interface Props {
  sheet: Sheet;
  set: (patch: Partial<Sheet>) => void;
  kitchen: KitchenHead;
  problem: (field: string) => string | undefined;
}

export function AboutSheet({ sheet, set, kitchen, problem }: Props) {
  return (
    <Panel label="About the test" className="flex flex-wrap gap-x-5 gap-y-3 items-end">
      <label className="flex flex-col text-sm">
        by
        <input
          className="input input-sm w-32"
          value={sheet.by}
          placeholder="your name"
          onChange={(event) => set({ by: event.target.value })}
        />
      </label>
      <DateInput label="on" today={kitchen.today} value={sheet.on} set={(on) => set({ on })} />
      <label className="flex flex-col text-sm">
        from
        <select
          className="select select-sm w-44"
          value={sheet.supplier}
          onChange={(event) => set({ supplier: event.target.value })}
        >
          <option value="">not noted</option>
          {kitchen.suppliers.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      </label>
      <Watch sheet={sheet} set={set} problem={problem("minutes")} />
      <label className="flex flex-col text-sm grow">
        note
        <input
          className="input input-sm w-full"
          value={sheet.note}
          placeholder="e.g. size, wetness, knife or machine"
          onChange={(event) => set({ note: event.target.value })}
        />
      </label>
    </Panel>
  );
}
