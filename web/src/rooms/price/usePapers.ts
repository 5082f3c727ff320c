// Whether PDF can be made here (where not, papers open as pages to print), and what no list would hold.

import { useQuery } from "@tanstack/react-query";
import { api, type Papers, told } from "../../api/client";

export function usePapers(channel = "") {
  return useQuery({
    queryKey: ["papers", channel],
    queryFn: () => told<Papers>(api.GET("/api/papers", { params: { query: channel ? { channel } : {} } })),
  });
}
