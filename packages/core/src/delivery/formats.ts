import { CODECS, CONTAINERS, clip, packed, still } from './codecs'
import type { DeliveryFormat } from './format'

/**
 * What finished pictures can become: one table, from which the API's schema, the encoder, the join of parts, the queue, the
 * command line, the page's menus and the table in the README follow. A format is an entry here and a row in the test that
 * writes each of them and reads it back. Those that an ending means are called as it is; ids are never used anew.
 */
export const DELIVERY_FORMATS = {
  mp4: clip(CODECS.h264, CONTAINERS.mp4, ['mp4']),
  mov: clip(CODECS.proresHq, CONTAINERS.mov, ['mov']),
  mkv: clip(CODECS.ffv1, CONTAINERS.mkv, ['mkv']),
  mxf: clip(CODECS.dnxhrHqx, CONTAINERS.mxf, ['mxf']),
  'h264-8.mp4': clip(CODECS.h264of8, CONTAINERS.mp4),
  'h264.mov': clip(CODECS.h264, CONTAINERS.mov),
  'h264-8.mov': clip(CODECS.h264of8, CONTAINERS.mov),
  'h264.mkv': clip(CODECS.h264, CONTAINERS.mkv),
  'h264.mxf': clip(CODECS.h264, CONTAINERS.mxf),
  'hevc.mp4': clip(CODECS.hevc, CONTAINERS.mp4),
  'hevc-8.mp4': clip(CODECS.hevcOf8, CONTAINERS.mp4),
  'hevc.mov': clip(CODECS.hevc, CONTAINERS.mov),
  'hevc.mkv': clip(CODECS.hevc, CONTAINERS.mkv),
  'prores-lt.mov': clip(CODECS.proresLt, CONTAINERS.mov),
  'prores-422.mov': clip(CODECS.prores422, CONTAINERS.mov),
  'prores-4444.mov': clip(CODECS.prores4444, CONTAINERS.mov),
  'dnxhr-sq.mov': clip(CODECS.dnxhrSq, CONTAINERS.mov),
  'dnxhr-hq.mov': clip(CODECS.dnxhrHq, CONTAINERS.mov),
  'dnxhr-hqx.mov': clip(CODECS.dnxhrHqx, CONTAINERS.mov),
  'dnxhr-444.mov': clip(CODECS.dnxhr444, CONTAINERS.mov),
  'dnxhr-sq.mxf': clip(CODECS.dnxhrSq, CONTAINERS.mxf),
  'dnxhr-hq.mxf': clip(CODECS.dnxhrHq, CONTAINERS.mxf),
  'dnxhr-444.mxf': clip(CODECS.dnxhr444, CONTAINERS.mxf),
  'vp9.mp4': clip(CODECS.vp9, CONTAINERS.mp4),
  'vp9.mkv': clip(CODECS.vp9, CONTAINERS.mkv),
  'av1.mp4': clip(CODECS.av1, CONTAINERS.mp4),
  'av1.mkv': clip(CODECS.av1, CONTAINERS.mkv),
  png: still(['png'], 16, ['png'], packed('rgb48be'), {
    label: 'PNG, 16 bit',
    alpha: packed('rgba64be'),
    takes: 'Stills that every program opens.',
    loses: 'Nothing of 16 bits.',
    perPixel: 36,
  }),
  tif: still(['tif', 'tiff'], 16, ['tiff', '-compression_algo', 'lzw'], packed('rgb48le'), {
    label: 'TIFF, 16 bit',
    alpha: packed('rgba64le'),
    takes: 'Stills for retouching and print.',
    loses: 'Nothing of 16 bits.',
    perPixel: 44,
  }),
  exr: still(['exr'], 16, ['exr', '-format', 'half'], packed('gbrpf32le'), {
    label: 'EXR, half float, light',
    float: true,
    encoding: 'linear',
    compressed: true,
    alpha: packed('gbrapf32le'),
    takes: 'Scene and display light as numbers, for compositing.',
    loses: 'Nothing that eleven bits of a half float hold.',
    perPixel: 30,
  }),
  dpx: still(['dpx'], 10, ['dpx'], packed('gbrp10le'), {
    label: 'DPX, 10 bit',
    takes: 'Stills for film recorders and finishing.',
    loses: '10 bit; no alpha.',
    perPixel: 32,
  }),
  jpg: still(['jpg', 'jpeg'], 8, ['mjpeg', '-huffman', 'optimal'], packed('yuvj444p'), {
    label: 'JPEG, 8 bit',
    quality: { option: '-q:v', usual: 2, best: 1, least: 31 },
    takes: 'Stills to be sent and shown.',
    loses: '8 bit, a trace of the detail; no alpha.',
    perPixel: 4,
  }),
  'png-8': still('png', 8, ['png'], packed('rgb24'), {
    label: 'PNG, 8 bit',
    alpha: packed('rgba'),
    takes: 'Stills for screens and the web.',
    loses: '8 bit.',
    perPixel: 14,
  }),
  'exr-float': still('exr', 32, ['exr', '-format', 'float'], packed('gbrpf32le'), {
    label: 'EXR, float, light',
    float: true,
    encoding: 'linear',
    compressed: true,
    alpha: packed('gbrapf32le'),
    takes: 'Light to the last bit, for measuring.',
    loses: 'Nothing.',
    perPixel: 66,
  }),
  'dpx-16': still('dpx', 16, ['dpx'], packed('rgb48be'), {
    label: 'DPX, 16 bit',
    takes: 'Stills for finishing, as deep as they were worked out.',
    loses: 'Nothing of 16 bits; no alpha.',
    perPixel: 48,
  }),
} as const satisfies Readonly<Record<string, DeliveryFormat>>

export type DeliveryId = keyof typeof DELIVERY_FORMATS

export const DELIVERY_IDS = Object.keys(DELIVERY_FORMATS) as readonly DeliveryId[]

/** An entry of the table under its general type. */
export const deliveryFormat = (id: DeliveryId): DeliveryFormat => DELIVERY_FORMATS[id]

/** The format that a file's ending means, in any case of letters; undefined where it means none. */
export const deliveryByEnding = (ending: string): DeliveryId | undefined =>
  DELIVERY_IDS.find((id) => deliveryFormat(id).endings.includes(ending.toLowerCase()))

/** Endings that are written, with their dots, such as `.png .tif`. */
export const DELIVERY_ENDINGS: readonly string[] = [
  ...new Set(DELIVERY_IDS.map((id) => `.${deliveryFormat(id).ending}`)),
]

/** The table as Markdown. */
export function deliveryTable(): string {
  const row = (id: DeliveryId): string => {
    const { label, ending, endings, moving, takes, loses } = deliveryFormat(id)
    const written = endings.length ? endings.map((e) => `\`.${e}\``).join(', ') : `\`${id}\` (.${ending})`
    return `| ${written} | ${label} | ${moving ? 'one clip' : 'numbered stills'} | ${takes} | ${loses} |`
  }
  return [
    '| Ending or format | What | Becomes | For | Loses |',
    '| --- | --- | --- | --- | --- |',
    ...DELIVERY_IDS.map(row),
  ].join('\n')
}
