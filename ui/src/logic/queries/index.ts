/** What is asked of the server, by name: keys and requests stand here and nowhere else. */

export * from "./atHand";
export * from "./bin";
export * from "./book";
export * from "./cold";
export * from "./copies";
export * from "./devices";
export * from "./doughs";
export * from "./keys";
export * from "./kitchen";
export * from "./network";
export * from "./sessions";
export * from "./today";
export * from "./trays";
