/// <reference types="vite/client" />

declare module "swagger-ui-dist/swagger-ui-bundle.js" {
  const bundle: (options: { url: string; dom_id: string; deepLinking: boolean }) => void;
  export default bundle;
}
