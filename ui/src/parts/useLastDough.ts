import { useLocation } from "react-router";
import { lastDough } from "../logic/lastDough";

/** The dough in the address, else the one looked at last, else none. */
export const useLastDough = (): number | null => lastDough(useLocation().pathname);
