import type { FileHandle } from 'node:fs/promises'
import { inflateSync } from 'node:zlib'
import {
  encodingOfParameters,
  encodingOfProfile,
  type EncodingParameters,
  type EncodingRef,
} from '@fogbath/core/encodings'
import { openRegular } from '../files/inside'
import { sentenceOf } from '../errors'

/** What a still's file says of its colours, which ffmpeg does not tell. */
export interface Marked {
  readonly encoding: EncodingRef
  /** From what it follows, where the file leaves something open. */
  readonly guessed?: string
}

/** Marks of a stream, in ffmpeg's words. */
interface Tagged {
  readonly color_transfer?: string
  readonly color_primaries?: string
}

/** By its marks of transfer and primaries (ITU-T H.273); null where they say nothing of use. */
export function taggedEncoding(stream: Tagged): string | null {
  if (stream.color_transfer === 'smpte2084') return 'pq'
  if (stream.color_transfer === 'arib-std-b67') return 'hlg'
  const linear = stream.color_transfer === 'linear'
  if (stream.color_primaries === 'smpte432') return linear ? 'linear-p3' : 'p3'
  if (stream.color_transfer === 'iec61966-2-1') return 'srgb'
  if (linear) return stream.color_primaries === 'bt2020' ? 'linear-bt2020' : 'linear'
  if (stream.color_primaries === 'bt2020' || stream.color_transfer?.startsWith('bt2020')) return 'bt2020'
  if (stream.color_transfer === 'bt709' && stream.color_primaries === 'bt709') return 'bt1886'
  return null
}

/** As much as is read of a file's beginning: colour profiles of cameras have some kB. */
const HEAD = 2e6
/** Longest profile that is unpacked. */
const MOST_PROFILE = 4e6

/**
 * The encoding that a still names in its own way: a cICP, iCCP, sRGB or gAMA chunk of PNG, the profile in a JPEG, TIFF or WebP, the
 * transfer in the header of a DPX.
 * @returns null where it names none; a sentence where what it names cannot be read
 */
export async function markedEncoding(path: string, codec: string): Promise<Marked | string | null> {
  const read = READERS[codec]
  if (!read) return null
  const file = await openRegular(path)
  try {
    return await read(await bytesAt(file, 0, HEAD), file)
  } catch (error) {
    return sentenceOf(error)
  } finally {
    await file.close()
  }
}

async function bytesAt(file: FileHandle, at: number, length: number): Promise<Buffer> {
  const buffer = Buffer.alloc(Math.min(length, HEAD))
  const { bytesRead } = await file.read(buffer, 0, buffer.length, at)
  return buffer.subarray(0, bytesRead)
}

type Reader = (head: Buffer, file: FileHandle) => Promise<Marked | null> | Marked | null
const READERS: Readonly<Record<string, Reader>> = {
  png: (head) => pngMark(pngChunks(head)),
  mjpeg: (head) => profile(jpegProfile(head)),
  webp: (head) => profile(webpProfile(head)),
  tiff: async (head, file) => profile(await tiffProfile(head, file)),
  dpx: dpxMark,
}

const profile = (bytes: Uint8Array | null): Marked | null => (bytes ? { encoding: encodingOfProfile(bytes) } : null)

/** Chunks before the picture (ISO/IEC 15948:2004, 5.3). */
function pngChunks(head: Buffer): Map<string, Buffer> {
  const chunks = new Map<string, Buffer>()
  for (let at = 8; at + 12 <= head.length;) {
    const [length, name] = [head.readUInt32BE(at), head.toString('latin1', at + 4, at + 8)]
    if (name === 'IDAT') break
    chunks.set(name, head.subarray(at + 8, at + 8 + length))
    at += 12 + length
  }
  return chunks
}

/** ITU-T H.273 code points in ffmpeg's words, as far as there is an encoding for them. */
const PRIMARIES: Readonly<Record<number, string>> = { 1: 'bt709', 9: 'bt2020', 12: 'smpte432' }
const TRANSFERS: Readonly<Record<number, string>> = {
  1: 'bt709',
  8: 'linear',
  13: 'iec61966-2-1',
  14: 'bt2020-10',
  15: 'bt2020-12',
  16: 'smpte2084',
  18: 'arib-std-b67',
}

/** In the order in which they count (PNG, third edition, 4.3): cICP, iCCP, sRGB, gAMA with cHRM. */
function pngMark(chunks: ReadonlyMap<string, Buffer>): Marked | null {
  const [cicp, iccp, gama, chrm] = ['cICP', 'iCCP', 'gAMA', 'cHRM'].map((name) => chunks.get(name))
  if (cicp && cicp.length >= 4) {
    const [primaries, transfer] = [PRIMARIES[cicp[0]!], TRANSFERS[cicp[1]!]]
    const encoding = taggedEncoding({
      ...(primaries && { color_primaries: primaries }),
      ...(transfer && { color_transfer: transfer }),
    })
    if (encoding) return { encoding }
  }
  if (iccp) {
    // A name, a zero, the method, the packed profile.
    const packed = iccp.subarray(iccp.indexOf(0) + 2)
    return profile(inflateSync(packed, { maxOutputLength: MOST_PROFILE }))
  }
  if (chunks.has('sRGB')) return { encoding: 'srgb' }
  return gama && gama.length >= 4 ? gammaMark(gama.readUInt32BE(0) / 1e5, chrm) : null
}

/** @param gamma from light to code (11.3.3.2) */
function gammaMark(gamma: number, chrm: Buffer | undefined): Marked | null {
  const xy = chrm && chrm.length >= 32 ? Array.from({ length: 8 }, (_, i) => chrm.readUInt32BE(4 * i) / 1e5) : null
  const usual = !xy || Math.hypot(xy[2]! - 0.64, xy[3]! - 0.33, xy[4]! - 0.3, xy[5]! - 0.6) < 0.01
  // Written by programs that mean sRGB (common practice).
  if (usual && Math.abs(gamma - 1 / 2.2) < 0.005)
    return { encoding: 'srgb', guessed: 'from a gamma of 2.2, as programs write it for sRGB' }
  if (usual && gamma === 1) return { encoding: 'linear' }
  if (!(gamma > 0.1 && gamma < 10)) return null
  const at = (i: number): [number, number] => [xy![i]!, xy![i + 1]!]
  const named = xy
    ? { white: at(0), red: at(2), green: at(4), blue: at(6) }
    : { white: [0.3127, 0.329], red: [0.64, 0.33], green: [0.3, 0.6], blue: [0.15, 0.06] }
  return {
    encoding: encodingOfParameters({
      name: `PNG, gamma ${(1 / gamma).toFixed(2)}`,
      refers: 'display',
      curve: { type: 'gamma', gamma: 1 / gamma },
      primaries: named,
    } as EncodingParameters),
  }
}

/** Pieces of a profile in APP2 segments, which are numbered (ICC.1:2022, B.4). */
function jpegProfile(head: Buffer): Buffer | null {
  const pieces = new Map<number, Buffer>()
  for (let at = 2; at + 4 <= head.length && head[at] === 0xff;) {
    const [marker, length] = [head[at + 1]!, head.readUInt16BE(at + 2)]
    // The picture begins.
    if (marker === 0xda) break
    if (marker === 0xe2 && head.toString('latin1', at + 4, at + 15) === 'ICC_PROFILE')
      pieces.set(head[at + 16]!, head.subarray(at + 18, at + 2 + length))
    at += 2 + length
  }
  const ordered = [...pieces].sort(([a], [b]) => a - b).map(([, piece]) => piece)
  return ordered.length > 0 ? Buffer.concat(ordered) : null
}

/** The ICCP chunk of a RIFF file (RFC 9649, 2.7.1.4). */
function webpProfile(head: Buffer): Buffer | null {
  for (let at = 12; at + 8 <= head.length;) {
    const length = head.readUInt32LE(at + 4)
    if (head.toString('latin1', at, at + 4) === 'ICCP') return head.subarray(at + 8, at + 8 + length)
    at += 8 + length + (length % 2)
  }
  return null
}

/** Tag 34675 (ICC.1:2022, B.3). */
async function tiffProfile(head: Buffer, file: FileHandle): Promise<Buffer | null> {
  const entry = (await tiffTags(head, file)).get(34675)
  return entry ? bytesAt(file, entry.value, entry.count) : null
}

/** Whether a file is a TIFF of floats (tag 339 is 3): ffmpeg reads none of those. */
export async function isFloatTiff(path: string): Promise<boolean> {
  const file = await openRegular(path)
  try {
    const head = await bytesAt(file, 0, 8)
    if (!/^(II\*\0|MM\0\*)$/.test(head.toString('latin1', 0, 4))) return false
    const entry = (await tiffTags(head, file)).get(339)
    if (!entry) return false
    const little = head.toString('latin1', 0, 2) === 'II'
    const at = entry.count > 2 ? await bytesAt(file, entry.value, 2) : null
    return (at ? (little ? at.readUInt16LE(0) : at.readUInt16BE(0)) : entry.short) === 3
  } finally {
    await file.close()
  }
}

interface TiffEntry {
  readonly count: number
  /** The value, or where it lies, as a number of 32 bits and of 16. */
  readonly value: number
  readonly short: number
}
/** Entries of the first directory by their tags (TIFF 6.0, section 2). */
async function tiffTags(head: Buffer, file: FileHandle): Promise<Map<number, TiffEntry>> {
  const little = head.toString('latin1', 0, 2) === 'II'
  const short = (b: Buffer, at: number): number => (little ? b.readUInt16LE(at) : b.readUInt16BE(at))
  const long = (b: Buffer, at: number): number => (little ? b.readUInt32LE(at) : b.readUInt32BE(at))
  const entries = short(await bytesAt(file, long(head, 4), 2), 0)
  const directory = await bytesAt(file, long(head, 4) + 2, 12 * entries)
  const tags = new Map<number, TiffEntry>()
  for (let at = 0; at + 12 <= directory.length; at += 12)
    tags.set(short(directory, at), {
      count: long(directory, at + 4),
      value: long(directory, at + 8),
      short: short(directory, at + 8),
    })
  return tags
}

/** The transfer of the first element (SMPTE ST 268:2014, field 21.6 and table 5A; from memory). */
function dpxMark(head: Buffer): Marked | null {
  if (head[801] === 1) return { encoding: 'printing-density' }
  if (head[801] === 2) return { encoding: 'linear' }
  if (head[801] === 3) return { encoding: 'printing-density', guessed: 'because its header calls it logarithmic' }
  return null
}
