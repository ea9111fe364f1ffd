// What is changed, and by which tests that must be found: the quick ones first, the others only if those pass.

/** Data, schemas and generated files: a changed bound of a slider is no fault that a test could tell from a choice. */
const DATA = [/schema\.ts$/, /shipped\.ts$/, /wasm-binary\.ts$/, /recipe\.ts$/, /steps\.ts$/, /\.d\.ts$/]

const core = (name, folders, quick, slow = []) => ({
  name: `core ${name}`,
  package: 'packages/core',
  folders,
  skip: DATA,
  tests: [quick, slow].filter((t) => t.length),
})
const FILM = ['golden', 'film', 'silver', 'mono', 'prints', 'colour-processes', 'processes', 'speed', 'colour']

export const AREAS = [
  core('film', ['src/film', 'src/colour/gamut.ts', ...filmsOf()], FILM, ['ends']),
  core(
    'line',
    ['src/line', 'src/lay'],
    ['golden', 'compile', 'edit', 'merge', 'parts', 'blend', 'line'],
    ['masks', 'colour-processes', 'emulsion'],
  ),
  core(
    'plan',
    ['src/plan', 'src/stages', 'src/treat'],
    ['compile', 'plan', 'parts', 'strand', 'kernels', 'ends', 'treatment'],
    ['line', 'masks'],
  ),
  core('masks', ['src/masks'], ['mask-shapes', 'space', 'masks'], ['compile']),
  core(
    'cpu',
    ['src/cpu', 'src/numbers'],
    ['memory', 'numbers', 'space', 'blur', 'kernels', 'ends'],
    ['masks', 'colour-processes'],
  ),
  {
    name: 'server render',
    package: 'packages/server',
    folders: ['src/render'],
    // A helper only runs built; the command line's tests compare its pictures.
    skip: [/helper-thread\.ts$/],
    tests: [['frame-worker'], ['queue', 'render']],
  },
  {
    name: 'server media',
    package: 'packages/server',
    folders: ['src/media'],
    skip: [],
    tests: [
      ['frames', 'probe', 'tags', 'media'],
      ['robust', 'api', 'render'],
    ],
  },
  core('readings', [], ['space', 'scopes']),
  {
    name: 'web page',
    package: 'packages/web',
    folders: [],
    skip: [],
    tests: [['treat', 'picture', 'readings', 'workers', 'lists']],
  },
  {
    name: 'web stores',
    package: 'packages/web',
    folders: ['src/stores'],
    skip: [],
    tests: [['saving', 'undo', 'bench', 'parts', 'stores']],
  },
]

function filmsOf() {
  return ['colour-print', 'instant', 'mono', 'three-strip', 'two-strip'].map((kind) => `src/baths/${kind}/film.ts`)
}
