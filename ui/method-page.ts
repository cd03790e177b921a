import { readFileSync } from "node:fs";
import MarkdownIt from "markdown-it";
import anchor from "markdown-it-anchor";
import type { Plugin } from "vite";

const FILE = "../docs/method.md";

/** Puts docs/method.md into method.html as the page is built. */
export function methodPage(): Plugin {
  const markdown = new MarkdownIt().use(anchor);
  return {
    name: "method-page",
    transformIndexHtml: (html) =>
      html.replace("<!-- docs/method.md -->", () => markdown.render(readFileSync(FILE, "utf-8"))),
  };
}
