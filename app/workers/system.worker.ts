import { expose } from "comlink";
import { layOut } from "./lay-out";

const api = { layOut };
export type SystemWorker = typeof api;
expose(api);
