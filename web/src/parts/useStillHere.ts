// Whether the screen that asked for something is still there when the answer comes: who has left is not called back.

import { useCallback, useEffect, useRef } from "react";

export function useStillHere(): () => boolean {
  const here = useRef(true);
  useEffect(() => {
    here.current = true;
    return () => {
      here.current = false;
    };
  }, []);
  return useCallback(() => here.current, []);
}
