/** What a device needs to compute the surfaces of a job by itself. One module, so that it is loaded and kept as one. */
export { decide } from "~/core/job/decide";
export { ownStore } from "~/core/job/job";
export { versionOf } from "~/core/log/upgrade";
export { jobOnDevice } from "~/core/offline/job-on-device";
export { configureView } from "~/core/views/configure";
export { connectView } from "~/core/views/connect";
export { feedView } from "~/core/views/feed";
export { finderView } from "~/core/views/finder";
export { handoverView } from "~/core/views/handover";
export { handsView } from "~/core/views/hands";
export { intakeView } from "~/core/views/intake";
export { lengthsView } from "~/core/views/lengths";
export { overviewOf } from "~/core/views/overview";
export { proveView } from "~/core/views/prove";
export { stripSurface } from "~/core/views/strip";
