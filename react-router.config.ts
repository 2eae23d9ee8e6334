import type { Config } from "@react-router/dev/config";

export default {
  appDirectory: "app",
  ssr: true,
  // All routes are known from the start, so that a page finds the next one without connection.
  routeDiscovery: { mode: "initial" },
  future: { v8_middleware: true },
} satisfies Config;
