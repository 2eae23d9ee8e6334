/** The thread of `cli/slow-lane.mjs`: the whole application on a socket of its process. */
import { parentPort, workerData } from "node:worker_threads";
import { application } from "./app.mjs";

const app = await application(workerData.build);
app.listen(workerData.socketPath, () => parentPort.postMessage("listening"));
