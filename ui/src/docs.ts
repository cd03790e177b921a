import { SwaggerUIBundle } from "swagger-ui-dist";
import "swagger-ui-dist/swagger-ui.css";

SwaggerUIBundle({ url: "/api/openapi.json", dom_id: "#api", deepLinking: true });
