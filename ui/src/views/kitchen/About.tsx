import { useQuery } from "@tanstack/react-query";
import { aboutQuery } from "../../logic/queries";

/** Which version of the app this is, for whoever reports something. */
export function About() {
  const about = useQuery(aboutQuery);
  if (!about.data) return null;
  return <p className="text-[0.9375rem] text-soft">Fine Batch {about.data.version}</p>;
}
