// What kind a new thing is that the shelf does not know: nobody's guess, and "not known" is an answer.

import { KINDS } from "./kinds";

interface Props {
  what: string;
  kind: string;
  choose: (kind: string) => void;
}

export function KindChoice({ what, kind, choose }: Props) {
  return (
    <label className="flex items-center gap-1">
      <span className="quiet">of kind</span>
      <select
        className="cell-input"
        aria-label={`Kind of the new item "${what}"`}
        value={kind}
        onChange={(event) => choose(event.target.value)}
      >
        {KINDS.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </select>
    </label>
  );
}
