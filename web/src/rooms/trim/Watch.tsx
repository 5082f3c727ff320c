// The time it takes: started and stopped at the bench, or typed. It runs on while the sheet is closed.

import { useEffect, useState } from "react";
import { passed, type Sheet, stopped } from "./sheet";

interface Props {
  sheet: Sheet;
  set: (patch: Partial<Sheet>) => void;
  problem: string | undefined;
}

export function Watch({ sheet, set, problem }: Props) {
  const running = sheet.started !== null;
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, [running]);
  const seconds = Math.floor(passed(sheet, Math.max(now, sheet.started ?? 0)) * 60);
  return (
    <div className="flex items-end gap-2">
      {running ? (
        <div className="flex flex-col text-sm">
          minutes of work
          <span className="h-8 text-lg tabular-nums" role="timer">
            {Math.floor(seconds / 60)}:{String(seconds % 60).padStart(2, "0")}
          </span>
        </div>
      ) : (
        <label className="flex flex-col text-sm">
          minutes of work
          <input
            className="input input-sm w-20"
            inputMode="decimal"
            value={sheet.minutes}
            aria-invalid={sheet.minutes !== "" && problem !== undefined}
            onChange={(event) => set({ minutes: event.target.value })}
          />
        </label>
      )}
      <button
        type="button"
        className={`btn h-11 ${running ? "btn-primary" : ""}`}
        onClick={() => set(running ? stopped(sheet, Date.now()) : { started: Date.now() })}
      >
        {running ? "Stop" : "Start"}
      </button>
    </div>
  );
}
