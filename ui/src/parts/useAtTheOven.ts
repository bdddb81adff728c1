import { useQuery } from "@tanstack/react-query";
import { meQuery } from "../logic/queries";

/** Whether this is a device that was let in for what is done at the oven alone. */
export function useAtTheOven(): boolean {
  return useQuery(meQuery).data?.device?.role === "kitchen";
}
