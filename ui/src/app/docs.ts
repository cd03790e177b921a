import SwaggerUIBundle from "swagger-ui-dist/swagger-ui-bundle.js";
import "swagger-ui-dist/swagger-ui.css";

SwaggerUIBundle({
  url: "/api/openapi.json",
  dom_id: "#api",
  deepLinking: true,
  defaultModelsExpandDepth: 0,
});
