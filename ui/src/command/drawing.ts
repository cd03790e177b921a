/** Reads what is to be drawn from standard input, and writes the picture as SVG. */

import { readFileSync, writeFileSync } from "node:fs";
import { type Asked, pictureOf } from "./picture";

const STDIN = 0;
const STDOUT = 1;

writeFileSync(STDOUT, pictureOf(JSON.parse(readFileSync(STDIN, "utf-8")) as Asked));
