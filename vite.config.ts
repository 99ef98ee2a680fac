import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

/** Statistics that only the server works out are left out where nothing asks for them. */
const treeshake = { moduleSideEffects: (id: string): boolean => !id.includes("/node_modules/jstat/") };

/**
 * What many pages share comes in one file instead of in forty small ones, each of which costs a way there and back on a slow
 * line. A page has half as many for a tenth more bytes, and the next page finds them there.
 */
const codeSplitting = { groups: [{ name: "shared", minShareCount: 6 }] };

export default defineConfig({
  plugins: [tailwindcss(), reactRouter()],
  resolve: { tsconfigPaths: true },
  worker: { format: "es", rolldownOptions: { treeshake } },
  build: { rolldownOptions: { treeshake } },
  optimizeDeps: {
    include: [
      "react",
      "react-dom",
      "react-router",
      "radix-ui",
      "yup",
      "uuid",
      "dexie",
      "signature_pad",
      "clsx",
      "@conform-to/react",
      "@conform-to/yup",
    ],
    exclude: ["sequelize", "mysql2", "umzug"],
  },
  environments: {
    // React Router's plugin reads it by this name.
    // eslint-disable-next-line @typescript-eslint/no-deprecated -- Vite has another name for it by now
    ssr: { build: { rollupOptions: { input: "./server/app.ts" } } },
    client: { build: { rolldownOptions: { output: { codeSplitting } } } },
  },
});
