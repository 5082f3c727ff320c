// A dialog that asks for the name of something new.

import { type ReactNode, useEffect, useId, useRef, useState } from "react";
import { inWords } from "../api/client";

interface Props {
  title: string;
  action: string;
  error: Error | null;
  /** Whether it is on its way: not to be sent twice. */
  busy: boolean;
  submit: (name: string) => void;
  leave: () => void;
  start?: string;
  /** What is shown below the name, for the name typed so far. */
  below?: (name: string) => ReactNode;
  children?: ReactNode;
}

export function NameDialog({
  title,
  action,
  error,
  busy,
  submit,
  leave,
  start = "",
  below,
  children,
}: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  const heading = useId();
  useEffect(() => dialog.current?.showModal(), []);
  const [name, setName] = useState(start);
  return (
    <dialog ref={dialog} className="modal" onClose={leave} aria-labelledby={heading}>
      <form
        className="modal-box"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) submit(name.trim());
        }}
      >
        <h2 id={heading} className="text-xl font-semibold mb-3">
          {title}
        </h2>
        <label className="flex flex-col gap-1">
          What is it called?
          <input
            autoFocus
            className="input w-full"
            value={name}
            maxLength={200}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        {below?.(name.trim())}
        {children}
        {error && (
          <p role="alert" className="text-error mt-2">
            {inWords(error)}
          </p>
        )}
        <div className="modal-action">
          <button type="button" className="btn btn-sm" onClick={() => dialog.current?.close()}>
            Leave <kbd>Esc</kbd>
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!name.trim() || busy}>
            {action} <kbd className="text-base-content">Enter</kbd>
          </button>
        </div>
      </form>
    </dialog>
  );
}
