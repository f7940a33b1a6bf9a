/** A sentence in which no figure parts from its unit at a line's end. */
export const unbroken = (text: string): string =>
  text.replace(/(\d) (?=(?:s|ms|mm|cm|cm\/s|Hz|%)(?![\p{L}\d]))/gu, "$1\u00a0");
