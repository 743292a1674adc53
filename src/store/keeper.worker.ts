/** The worker that keeps the scene on the table. */
import * as Comlink from "comlink";
import { Keeper } from "./keeper";

Comlink.expose(new Keeper());
