/** What is known of the demo scene before it is made. */

/** The same in every browser. */
export const DEMO_ID = "gullhaven-regatta";
export const DEMO_NAME = "Gullhaven Regatta";
