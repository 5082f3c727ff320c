// The bench scale: asked several times a second while a sheet is open; lost and found again without a word typed lost.

import { useEffect, useRef, useState } from "react";
import { api, type Reading, told } from "../../api/client";

const PERIOD = 150;
const NONE: Reading = { state: "none", grams: null, steady: false, net: false, simulated: false };

export function useScale(): Reading {
  const [reading, setReading] = useState<Reading>(NONE);
  useEffect(() => {
    let stopped = false;
    let timer = 0;
    const ask = async () => {
      let found: Reading;
      try {
        found = await told<Reading>(api.GET("/api/scale"));
      } catch {
        found = { ...NONE, state: "lost" };
      }
      if (stopped) return;
      setReading(found);
      timer = window.setTimeout(ask, found.state === "none" ? 5000 : PERIOD);
    };
    void ask();
    return () => {
      stopped = true;
      window.clearTimeout(timer);
    };
  }, []);
  return reading;
}

/**
 * Never further from the weight taken last than this [g] since: it is the same thing still. And what shows no more is an
 * empty pan that drifted: no kitchen scale is fit to weigh so little.
 */
const SAME = 5;

/** Waits, once armed for a field, until the scale rests, and hands its weight over; never the same load twice. */
export function useTaking(reading: Reading, taken: (field: string, grams: string) => void) {
  const [armed, setArmed] = useState<string | null>(null);
  const latest = useRef(taken);
  latest.current = taken;
  const before = useRef<number | null>(null);
  const { state, steady, grams } = reading;
  const weight = state === "live" && grams != null ? Number(grams) : null;
  if (weight !== null && before.current !== null && Math.abs(weight - before.current) > SAME)
    before.current = null;
  const same = before.current !== null || (weight !== null && Math.abs(weight) <= SAME);
  useEffect(() => {
    if (armed === null || weight === null || !steady || weight < 0 || same) return;
    before.current = weight;
    setArmed(null);
    latest.current(armed, String(weight));
  }, [armed, weight, steady, same]);
  return { armed, arm: setArmed, same };
}
