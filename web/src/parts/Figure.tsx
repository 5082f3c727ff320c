// A figure with its working: shown, and opened by a tap or a key.

import { createContext, useContext } from "react";
import type { Recipe } from "../api/client";
import { NOT_KNOWN } from "./format";

export interface Question {
  figure: string;
  /** Whose figure it is; none of an item, a test or a yield. */
  recipe?: string;
  draft?: Recipe;
}

/** Opens the working of a figure. */
export const WorkingContext = createContext<(question: Question) => void>(() => {});
export const CurrencyContext = createContext("EUR");

export function useWorking(): (question: Question) => void {
  return useContext(WorkingContext);
}

export function useCurrency(): string {
  return useContext(CurrencyContext);
}

interface Props {
  ask: Question;
  text: string;
  label: string;
  was?: string | undefined;
  className?: string;
  /** Something that belongs to it is not known yet: it is this much and more. */
  atLeast?: boolean;
  /** Whether Tab stops here; lines offer their workings by a key instead. */
  stop?: boolean;
}

export function Figure({ ask, text, label, was, className = "", atLeast = false, stop = true }: Props) {
  const open = useWorking();
  return (
    <span className="whitespace-nowrap">
      {was !== undefined && was !== text && was !== NOT_KNOWN && (
        <span className="quiet text-xs mr-1">was {was}</span>
      )}
      {atLeast && text !== NOT_KNOWN && <span className="quiet text-xs mr-1">at least</span>}
      <button
        type="button"
        className={`figure ${className}`}
        tabIndex={stop ? 0 : -1}
        title={`How ${label} came about`}
        aria-label={`${label}: ${atLeast ? "at least " : ""}${text}. Show the working`}
        onClick={() => open(ask)}
      >
        {text}
      </button>
    </span>
  );
}
