/** What an artist does to the scene, each as one change with a name. The interface calls these and nothing else writes. */
export { dressingOf, editDressing, editLine, guideLinesOf, inField, lineOf, millimetre } from "./common";
export * from "./courses";
export * from "./laying";
export * from "./dressings";
export * from "./drawings";
export * from "./recipes";
export * from "./knots";
export * from "./laid";
export * from "./lines";
export * from "./mends";
export * from "./movers";
export * from "./patches";
export * from "./pegs";
export * from "./pins";
export * from "./props";
export * from "./surfaces";
export * from "./ties";
export * from "./views";
