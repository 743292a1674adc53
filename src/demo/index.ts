export { DEMO_ID, demoScene } from "./scene";
