/** Everything on the bench that has a key: what it is called, its keys as useKeys.ts names them, and how they are written. */
export interface KeyEntry {
  readonly action: string
  readonly keys: readonly string[]
  readonly shown: string
  readonly text: string
}

const entry = <A extends string>(action: A, keys: readonly string[], shown: string, text: string) => ({
  action,
  keys,
  shown,
  text,
})

export const KEYS = [
  {
    group: 'Picture',
    entries: [
      entry('play', [' '], 'Space', 'play or stop'),
      entry('frameBack', ['ArrowLeft'], '←', 'one frame back'),
      entry('frameOn', ['ArrowRight'], '→', 'one frame on'),
      entry('tenBack', ['shift+ArrowLeft'], 'Shift ←', 'ten frames back'),
      entry('tenOn', ['shift+ArrowRight'], 'Shift →', 'ten frames on'),
      entry('firstFrame', ['Home'], 'Home', 'the first frame'),
      entry('lastFrame', ['End'], 'End', 'the last frame'),
      entry('backwards', ['j'], 'J', 'play backwards, again: faster'),
      entry('stop', ['k'], 'K', 'stop'),
      entry('forwards', ['l'], 'L', 'play forwards, again: faster'),
      entry('rangeFrom', ['i'], 'I', 'play from this frame'),
      entry('rangeTo', ['o'], 'O', 'play up to this frame'),
      entry('rangeAll', ['e'], 'E', 'play the entire shot'),
      entry('reel', ['g'], 'G', 'play all shots one after the other, or only this one'),
      entry('loop', ['c'], 'C', 'loop on or off'),
      entry('hold', ['f'], 'F (held)', 'the untreated footage'),
      entry('wipe', ['w'], 'W', 'wipe on or off'),
      entry('pair', ['s'], 'S', 'side by side on or off'),
      entry('flip', ['v'], 'V', 'the trial before this one, and back'),
      entry('zoom', ['z'], 'Z', 'fit, 100, 200, 400 %'),
      entry('bare', ['u'], 'U', 'only the picture, full screen'),
    ],
  },
  {
    group: 'Line',
    entries: [
      entry('walkBack', ['['], '[', 'look one bath earlier'),
      entry('walkOn', [']'], ']', 'look one bath later'),
      entry('tap', ['t'], 'T', 'look at what leaves the chosen bath'),
      entry('mask', ['b'], 'B', 'the mask of the chosen bath, in black and white'),
      entry('add', ['a'], 'A', 'add a bath or recipe'),
      entry('inOut', ['x'], 'X', 'lift out or put back the chosen bath'),
      entry('duplicate', ['d'], 'D', 'duplicate the chosen bath'),
      entry('remove', ['Delete'], 'Delete', 'remove the chosen baths'),
      entry('copy', ['ctrl+c'], 'Ctrl C', 'copy the chosen baths'),
      entry('paste', ['ctrl+v'], 'Ctrl V', 'paste, in any shot or production'),
      entry('undo', ['ctrl+z'], 'Ctrl Z', 'undo'),
      entry('redo', ['ctrl+y', 'ctrl+shift+z'], 'Ctrl Y', 'redo'),
    ],
  },
  {
    group: 'Shot',
    entries: [
      entry('shotBack', ['PageUp'], 'Page up', 'the shot before'),
      entry('shotOn', ['PageDown'], 'Page down', 'the shot after'),
      entry('shotWall', ['y'], 'Y', 'all shots as they are treated'),
      entry('proof', ['p'], 'P', 'keep a proof of this frame'),
      entry('wall', ['m'], 'M', 'see the proofs of this shot'),
      entry('note', ['n'], 'N', 'notes on this frame and the shot'),
      entry('render', ['r'], 'R', 'render the shot, after a question'),
      entry('help', ['?'], '?', 'this sheet'),
    ],
  },
] as const satisfies readonly { readonly group: string; readonly entries: readonly KeyEntry[] }[]

export type BenchAction = (typeof KEYS)[number]['entries'][number]['action']

/** The key of an action, for tooltips. */
export const shortcutOf = (action: string): string =>
  KEYS.flatMap((g): readonly KeyEntry[] => g.entries).find((e) => e.action === action)?.shown ?? ''
