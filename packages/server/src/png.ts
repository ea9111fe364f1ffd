/** Width and height from the header of a PNG file (ISO/IEC 15948, 5.2 and 11.2.2); null where it is none. */
export function pngSize(bytes: Buffer): { width: number; height: number } | null {
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])
  if (bytes.length < 33 || !bytes.subarray(0, 8).equals(signature) || bytes.toString('latin1', 12, 16) !== 'IHDR')
    return null
  return { width: bytes.readUInt32BE(16), height: bytes.readUInt32BE(20) }
}
