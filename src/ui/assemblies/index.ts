/** Assemblies: what is kept as one, the way into it and back, and what is said of it. */
export { AssemblySection } from "./AssemblySection";
export { InsideBar } from "./InsideBar";
export { KeepDialog } from "./KeepDialog";
