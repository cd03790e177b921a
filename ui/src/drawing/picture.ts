/** The drawing as a picture of its own: colours, sizes and fonts are written into it. */

/** What of an element's look is written into it. */
const WRITTEN = [
  "fill",
  "fill-opacity",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "stroke-linecap",
  "stroke-opacity",
  "opacity",
  "font-family",
  "font-size",
  "font-style",
  "font-weight",
  "text-anchor",
  "paint-order",
  "visibility",
] as const;
/** Of the screen only: nothing of it belongs into a picture. */
const OF_THE_SCREEN = /^(class|style|tabindex|role|data-.*|aria-.*)$/;
const SVG = "http://www.w3.org/2000/svg";
const MARGIN = 16;
const LINE = 16;
const PNG_SCALE = 2;

/** A drawing as it looks, with its name and a word on colours below, as SVG text. */
export async function asSvg(drawing: SVGSVGElement, name: string, words: string): Promise<string> {
  const copy = written(drawing);
  const { width, height } = drawing.getBoundingClientRect();
  // A sentence a line.
  const lines = words.split(/(?<=\.)\s+/);
  const under = height + 2 * MARGIN + LINE;
  const [w, h] = [width + 2 * MARGIN, under + LINE * (lines.length + 1)];
  const paper = getComputedStyle(document.body);
  copy.setAttribute("x", String(MARGIN));
  copy.setAttribute("y", String(MARGIN));
  copy.setAttribute("width", String(width));
  copy.setAttribute("height", String(height));
  const whole = made("svg", { width: w, height: h, viewBox: `0 0 ${w} ${h}`, role: "img" });
  const fonts = document.createElementNS(SVG, "style");
  fonts.textContent = (await fontFaces()).join("\n");
  const title = document.createElementNS(SVG, "title");
  title.textContent = name;
  const look = { fill: paper.color, "font-family": paper.fontFamily };
  const foot = (text: string, y: number, size: number) => {
    const line = made("text", { x: MARGIN, y, "font-size": size, ...look });
    line.textContent = text;
    return line;
  };
  whole.append(
    title,
    fonts,
    made("rect", { width: w, height: h, fill: paper.getPropertyValue("--paper") }),
    copy,
    foot(name, under, 14),
    ...lines.map((line, n) => foot(line, under + LINE * (n + 1), 11)),
  );
  return new XMLSerializer().serializeToString(whole);
}

/** The same as PNG, twice as fine. */
export async function asPng(svg: string): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = image.width * PNG_SCALE;
  canvas.height = image.height * PNG_SCALE;
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) => {
    canvas.toBlob((blob) => {
      if (blob) resolve(blob);
      else reject(new Error("The picture is too large for this browser."));
    }, "image/png");
  });
}

function made(name: string, values: Record<string, string | number>): SVGElement {
  const element = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(values)) element.setAttribute(key, String(value));
  return element;
}

/** A copy in which each element says itself how it looks. */
export function written(drawing: SVGSVGElement): SVGSVGElement {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  const all = [drawing, ...drawing.querySelectorAll("*")];
  [copy, ...copy.querySelectorAll("*")].forEach((element, n) => {
    const look = getComputedStyle(all[n] ?? drawing);
    for (const { name } of [...element.attributes]) {
      if (OF_THE_SCREEN.test(name)) element.removeAttribute(name);
    }
    for (const name of WRITTEN) {
      const value = look.getPropertyValue(name);
      if (value) element.setAttribute(name, value);
    }
  });
  return copy;
}

/** The fonts of this page with their data, so that the picture needs none of them elsewhere. */
async function fontFaces(): Promise<string[]> {
  const rules = [...document.styleSheets].flatMap((sheet) => [...sheet.cssRules]);
  const faces = rules.filter((rule) => rule instanceof CSSFontFaceRule);
  const found = await Promise.all(faces.map(embedded));
  return found.filter((one) => one !== null);
}

async function embedded(face: CSSFontFaceRule): Promise<string | null> {
  // Those of other alphabets are left out: a name in them falls back on the reader's own.
  const range = face.style.getPropertyValue("unicode-range");
  const url = /url\("?([^")]+\.woff2[^")]*)"?\)/.exec(face.style.getPropertyValue("src"))?.[1];
  if (!url || (range && !/U\+0?0?00?-0?0?ff/i.test(range))) return null;
  const base = face.parentStyleSheet?.href ?? document.baseURI;
  const file = await (await fetch(new URL(url, base))).blob();
  return face.cssText.replace(/src:[^;}]+/, `src: url(${await dataUrl(file)}) format("woff2")`);
}

const dataUrl = (file: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error("A font cannot be read."));
    reader.readAsDataURL(file);
  });
