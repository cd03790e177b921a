import mark from "./jar.svg";

/** The mark: a jar with a few stones. */
export function JarMark() {
  return <img src={mark} alt="" width={30} height={30} />;
}
