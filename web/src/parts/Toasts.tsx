// Short notes at the foot of the screen, with an undo where there is one.

import { createContext, type ReactNode, useCallback, useContext, useMemo, useRef, useState } from "react";

interface Toast {
  id: number;
  text: string;
  undo?: (() => void) | undefined;
  bad?: boolean;
}

type Show = (text: string, more?: { undo?: () => void; bad?: boolean }) => void;

const ToastContext = createContext<Show>(() => {});
const SHOWN_FOR = 9000;

export function useToast(): Show {
  return useContext(ToastContext);
}

export function Toasts({ children }: { children: ReactNode }) {
  const [toasts, setToasts] = useState<Toast[]>([]);
  const next = useRef(1);
  const drop = useCallback((id: number) => setToasts((all) => all.filter((toast) => toast.id !== id)), []);
  const show = useCallback<Show>(
    (text, more = {}) => {
      const id = next.current++;
      setToasts((all) => [...all.slice(-2), { id, text, ...more }]);
      setTimeout(() => drop(id), SHOWN_FOR);
    },
    [drop],
  );
  const value = useMemo(() => show, [show]);
  return (
    <ToastContext value={value}>
      {children}
      {/* The page can be moved on by as much as a note covers: its last rows stay in reach. */}
      {toasts.length > 0 && <div className="h-24 no-print" aria-hidden="true" />}
      <div className="toast toast-center z-40 no-print" role="status" aria-live="polite">
        {toasts.map((toast) => (
          <div
            key={toast.id}
            className={`flex gap-3 items-center rounded px-4 py-2 shadow-lg ${toast.bad ? "bg-error text-error-content" : "bg-neutral text-neutral-content"}`}
          >
            <span>{toast.text}</span>
            {toast.undo && (
              <button
                type="button"
                className="underline font-semibold"
                onClick={() => {
                  toast.undo?.();
                  drop(toast.id);
                }}
              >
                Undo
              </button>
            )}
          </div>
        ))}
      </div>
    </ToastContext>
  );
}
