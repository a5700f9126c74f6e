/** The fonts that rows are written in, as CSS writes them: their texts are measured before they are drawn. */
export const fonts = { plain: '13px "IBM Plex Sans"', bold: '600 13px "IBM Plex Sans"', place: '700 13px "IBM Plex Sans"', small: '12px "IBM Plex Sans"', mono: '11.5px "IBM Plex Mono"' }

/** Fetches them where they are not there yet. */
export function fetchFonts(): Promise<unknown> {
  return Promise.all(Object.values(fonts).map((font) => document.fonts.load(font)))
}

/** Whether they are there; else it is told when they are. */
export function areFontsThere(arrived: () => void): boolean {
  const areThere = Object.values(fonts).every((font) => document.fonts.check(font))
  if (!areThere) void fetchFonts().then(arrived, arrived)
  return areThere
}
