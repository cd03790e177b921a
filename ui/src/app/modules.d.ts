/// <reference types="vite/client" />

declare module "swagger-ui-dist/swagger-ui-bundle.js" {
  const bundle: (options: {
    url: string;
    dom_id: string;
    deepLinking: boolean;
    defaultModelsExpandDepth: number;
  }) => void;
  export default bundle;
}

// All that is used of Node, while pages are built.
declare module "node:fs" {
  export function readFileSync(path: string, encoding: "utf-8"): string;
}
