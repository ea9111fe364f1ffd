/**
 * The header that names a file to be saved (RFC 6266): any text, and a plain name for those who cannot read it.
 * @param plain letters only, with or without an ending
 */
export const downloadName = (plain: string, name: string): string =>
  `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`
