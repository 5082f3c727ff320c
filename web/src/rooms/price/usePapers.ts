// Whether PDF can be made here; where not, papers open as pages to print.

import { useQuery } from "@tanstack/react-query";
import { api, type Papers, told } from "../../api/client";

export function usePapers() {
  return useQuery({ queryKey: ["papers"], queryFn: () => told<Papers>(api.GET("/api/papers")) });
}
