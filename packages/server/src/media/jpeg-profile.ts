import { writeFile } from 'node:fs/promises'
import { readOwn } from '../files/own'

/** Bytes of a profile in one segment (ICC.1:2022, B.4): its length is a number of 16 bits, behind a name and two counts. */
const MOST = 65_519
const NAME = Buffer.from('ICC_PROFILE\0', 'latin1')

/** Puts a colour profile into a JPEG file that has none, behind its first segment (JFIF comes first: ITU-T T.871, 10.1). */
export async function addProfile(path: string, profile: Uint8Array): Promise<void> {
  const file = await readOwn(path)
  const at = file.readUInt16BE(2) === 0xffe0 ? 4 + file.readUInt16BE(4) : 2
  await writeFile(path, Buffer.concat([file.subarray(0, at), ...segmentsOf(profile), file.subarray(at)]))
}

function segmentsOf(profile: Uint8Array): Buffer[] {
  const count = Math.ceil(profile.length / MOST)
  return Array.from({ length: count }, (_, i) => {
    const piece = profile.subarray(i * MOST, (i + 1) * MOST)
    const head = Buffer.from([0xff, 0xe2, 0, 0])
    head.writeUInt16BE(2 + NAME.length + 2 + piece.length, 2)
    return Buffer.concat([head, NAME, Buffer.from([i + 1, count]), piece])
  })
}
