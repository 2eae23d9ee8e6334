import { expose } from "comlink";
import { gapsOf, tryDocument } from "~/profiles/try-document";

const api = { tryDocument, gapsOf };
export type ProfileWorker = typeof api;
expose(api);
