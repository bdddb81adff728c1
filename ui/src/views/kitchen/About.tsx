import { useQuery } from "@tanstack/react-query";
import { api, body } from "../../api/client";

/** Which version of the app this is, for whoever reports something. */
export function About() {
  const about = useQuery({
    queryKey: ["about"],
    queryFn: () => body(api.GET("/api/about")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (!about.data) return null;
  return <p className="text-[0.9375rem] text-soft">Fine Batch {about.data.version}</p>;
}
