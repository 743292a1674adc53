/**
 * Stands in the browser for packages that work on pictures' pixels: they make functions of text as they load, which the
 * content policy forbids, and nothing here asks for them.
 */
const absent = (): never => {
  throw new Error("Pixels are not worked on here.");
};

export { absent as getPixels, absent as savePixels, absent as lanczos2, absent as lanczos3 };
export default absent;
