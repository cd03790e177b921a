import { readFileSync } from "node:fs";
import MarkdownIt from "markdown-it";
import anchor from "markdown-it-anchor";
import type { Plugin } from "vite";

/** Puts a page of docs/ where a comment names it, such as `<!-- docs/method.md -->`. */
export function markdownPages(): Plugin {
  const markdown = new MarkdownIt().use(anchor);
  return {
    name: "markdown-pages",
    transformIndexHtml: (html) =>
      html.replace(/<!-- (docs\/\w+\.md) -->/, (_, file: string) =>
        markdown.render(readFileSync(`../${file}`, "utf-8")),
      ),
  };
}
