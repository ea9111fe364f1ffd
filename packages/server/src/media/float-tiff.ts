import { stat } from 'node:fs/promises'
import { arrayBuffer } from 'node:stream/consumers'
import { fromArrayBuffer, type TypedArray } from 'geotiff'
import { Fault, sentenceOf } from '../errors'
import { withFile } from '../files/inside'
import { MOST_MEMORY, ffmpeg, writeFailure } from './ffmpeg'
import { isFloatTiff } from './marks'
import { MOST_PIXELS } from './probe'

/** Four channels of the largest picture, and room for what stands around them. */
const MOST_BYTES = 5 * 4 * MOST_PIXELS

/**
 * Writes a TIFF of floats anew as EXR with the same numbers in 32 bits: ffmpeg reads none of those. Alpha is left out; grey
 * becomes three channels.
 * @returns whether it was one; what is none is left alone
 * @throws a Fault that names the file where it cannot be read
 */
export async function writtenAsExr(from: string, to: string, label: string): Promise<boolean> {
  if (!(await isFloatTiff(from).catch(() => false))) return false
  const { width, height, planes } = await planesOf(from, label)
  const how = ['-f', 'rawvideo', '-pix_fmt', 'gbrpf32le', '-s', `${width}x${height}`, '-i', 'pipe:0']
  const out = [
    '-c:v',
    'exr',
    '-format',
    'float',
    '-compression',
    'zip16',
    '-frames:v',
    '1',
    '-f',
    'image2',
    '-update',
    '1',
  ]
  const child = ffmpeg(['-y', ...how, ...out, `file:${to}`], { memory: MOST_MEMORY })
  let stderr = ''
  child.stderr.on('data', (chunk: Buffer) => (stderr = (stderr + chunk.toString()).slice(-4000)))
  // One that ends early breaks the pipe, and says why itself.
  child.stdin.on('error', () => undefined)
  child.stdin.end(planes)
  if ((await child).failed) throw new Fault('media', `${label} could not be kept as EXR: ${writeFailure(stderr)}.`)
  return true
}

/** Green, blue and red, each whole, as ffmpeg has them. */
async function planesOf(path: string, label: string): Promise<{ width: number; height: number; planes: Buffer }> {
  const { size } = await stat(path)
  if (size > MOST_BYTES)
    throw new Fault('media', `${label} has ${size} bytes; a TIFF of floats may have ${MOST_BYTES}.`)
  try {
    const bytes = await withFile(path, arrayBuffer)
    const image = await (await fromArrayBuffer(bytes)).getImage(0)
    const [width, height, channels] = [image.getWidth(), image.getHeight(), image.getSamplesPerPixel()]
    const pieces = image.getTileWidth() * image.getTileHeight()
    if (width * height > MOST_PIXELS || pieces > MOST_PIXELS)
      throw new Fault('media', `it has more than ${MOST_PIXELS / 1e6} million pixels`)
    const read = await image.readRasters({ samples: channels < 3 ? [0] : [0, 1, 2] })
    const [red, green = red, blue = red] = read as unknown as [TypedArray, TypedArray?, TypedArray?]
    const planes = [green, blue, red].map((plane) => Buffer.from(Float32Array.from(plane).buffer))
    return { width, height, planes: Buffer.concat(planes) }
  } catch (error) {
    throw new Fault('media', `${label} is a TIFF of floats that cannot be read: ${sentenceOf(error)}.`)
  }
}
