// Where a file is dropped or chosen, with its progress and a way to cancel.

import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { askAnew } from "../../../api/asked";
import { inWords } from "../../../api/client";
import { useKeys } from "../../../parts/keys";
import { useToast } from "../../../parts/Toasts";
import { useStillHere } from "../../../parts/useStillHere";
import { readFile } from "./readFile";

interface Busy {
  name: string;
  done: number;
  stop: AbortController;
}

export function ReadIn() {
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState<Busy | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const client = useQueryClient();
  const navigate = useNavigate();
  const stillHere = useStillHere();
  const toast = useToast();
  useKeys({ o: () => input.current?.click(), escape: () => busy?.stop.abort() });

  const read = async (file: File | undefined) => {
    if (!file || busy) return;
    const stop = new AbortController();
    setWrong(null);
    setBusy({ name: file.name, done: 0, stop });
    try {
      const step = await readFile(file, (done) => setBusy({ name: file.name, done, stop }), stop.signal);
      await askAnew(client, { queryKey: ["lists"] });
      if (step.known) toast("This very file was read in before: here it is");
      if (stillHere()) navigate(`/buy/lists/${step.number}`);
      else toast(`${file.name} is read in: it waits among the deliveries`);
    } catch (error) {
      const told = stop.signal.aborted ? `${file.name} was not read in.` : `${file.name}: ${inWords(error)}`;
      if (stillHere()) setWrong(told);
      else toast(told, { bad: true });
    } finally {
      setBusy(null);
      if (input.current) input.current.value = "";
    }
  };

  return (
    <section
      aria-label="Read a file in"
      className={`sheet p-4 border-dashed ${over ? "bg-base-300" : ""}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void read(event.dataTransfer.files[0]);
      }}
    >
      <div className="flex flex-wrap items-center gap-4">
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={busy !== null}
          onClick={() => input.current?.click()}
        >
          Read a file in <kbd className="text-base-content">O</kbd>
        </button>
        <input
          ref={input}
          type="file"
          className="hidden"
          aria-label="File of a supplier"
          accept=".csv,.txt,.tsv,.xlsx,.xml"
          onChange={(event) => void read(event.target.files?.[0])}
        />
        {busy ? (
          <>
            <span>{busy.name}</span>
            <progress
              className="progress w-56"
              value={busy.done}
              max={1}
              aria-label={`Reading ${busy.name}`}
            />
            <button type="button" className="btn btn-sm" onClick={() => busy.stop.abort()}>
              Cancel <kbd>Esc</kbd>
            </button>
          </>
        ) : (
          <span className="quiet">
            or drop it here: a price list, invoice or credit note as CSV, XLSX or UBL 2.1. Nothing is recorded
            before you have seen what it does.
          </span>
        )}
      </div>
      {wrong && (
        <p role="alert" className="text-error mt-2">
          {wrong}
        </p>
      )}
    </section>
  );
}
