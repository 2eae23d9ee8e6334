import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

/** What most pages share comes in few files: left alone, a page would ask for more than sixty, most of them tiny. */
const groups = [
  { name: "icons", test: /node_modules\/lucide\//, minShareCount: 3 },
  { name: "shared", test: /\/(app|core)\/.*\.tsx?$/, minShareCount: 5 },
];

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [tailwindcss(), reactRouter()],
  // Of the icons only those that are used.
  ssr: { noExternal: ["lucide"] },
  resolve: { alias: { "~": new URL(".", import.meta.url).pathname } },
  worker: { format: "es" },
  build: { sourcemap: false, rolldownOptions: isSsrBuild ? {} : { output: { codeSplitting: { groups } } } },
}));
