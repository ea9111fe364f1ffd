// The layers of docs/architecture.md. `npm run lint` holds all imports against them, those of types included.
const core = (...folders) => `^packages/core/src/(${folders.join('|')})/`
const web = (...folders) => `^packages/web/src/(${folders.join('|')})/`
const rule = (name, comment, from, to, except = []) => ({
  name,
  comment,
  severity: 'error',
  from: { path: from, ...(except.length && { pathNot: except }) },
  to: { path: to },
})

module.exports = {
  forbidden: [
    { name: 'no-circle', comment: 'A circle has no layers.', severity: 'error', from: {}, to: { circular: true } },
    rule(
      'core-stands-alone',
      'Core knows no other package.',
      '^packages/core/',
      '^packages/(contract|server|sheet|web)/',
    ),
    rule('contract-on-core', 'The contract knows core alone.', '^packages/contract/', '^packages/(server|sheet|web)/'),
    rule('sheet-on-core', 'The sheet knows core alone.', '^packages/sheet/', '^packages/(contract|server|web)/'),
    rule('server-without-page', 'The server knows nothing of the page.', '^packages/server/', '^packages/web/'),
    rule(
      'page-without-server',
      'The page knows the server by its contract.',
      '^packages/web/src/',
      '^packages/server/',
    ),
    rule(
      'chemistry-at-the-bottom',
      'Numbers, colour, film and stages are what all else is built from.',
      core('numbers', 'keys', 'spectra', 'colour', 'encodings', 'footage', 'film', 'stages', 'lay'),
      core('baths', 'masks', 'tracking', 'line', 'plan', 'cpu', 'gpu', 'treat', 'look', 'match', 'readings', 'shelf'),
    ),
    rule(
      'baths-are-data',
      'A kind is a list of stages: it knows no plan and no kernel.',
      core('baths'),
      core('plan', 'cpu', 'gpu', 'treat', 'look', 'match', 'readings', 'shelf'),
    ),
    rule(
      'kernels-know-no-line',
      'Kernels work on steps, tables and pictures.',
      core('cpu'),
      core('baths', 'masks', 'tracking', 'line', 'plan', 'gpu', 'treat', 'look', 'match', 'readings', 'shelf'),
    ),
    rule(
      'plan-knows-no-kind',
      'A plan is made of stages, whichever bath they come from.',
      core('plan'),
      core('baths', 'line', 'gpu', 'treat', 'look', 'match', 'readings', 'shelf'),
    ),
    rule(
      'line-below-uses',
      'A line does not know what is made of it.',
      core('line'),
      core('edits', 'gpu', 'treat', 'look', 'match', 'readings', 'shelf'),
    ),
    rule(
      'page-api-at-the-bottom',
      'What asks the server and what works in threads knows nothing of what is shown.',
      web('api', 'workers'),
      web('stores', 'components', 'bench', 'shelf', 'intake', 'storage', 'views'),
    ),
    rule(
      'stores-below-parts',
      'Stores do not know what shows them.',
      web('stores'),
      web('components', 'bench', 'shelf', 'intake', 'storage', 'views'),
    ),
    rule(
      'components-below-parts',
      'Components serve all parts of the page.',
      web('components'),
      web('bench', 'shelf', 'intake', 'storage', 'views'),
    ),
    rule(
      'parts-below-views',
      'Views put parts together.',
      web('bench', 'shelf', 'intake', 'storage'),
      web('views', 'dev'),
    ),
    ...['bench', 'shelf', 'intake', 'storage'].map((part) =>
      rule(
        `${part}-on-its-own`,
        'What two parts of the page share is a component or a store.',
        web(part),
        web(...['bench', 'shelf', 'intake', 'storage'].filter((other) => other !== part)),
      ),
    ),
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '/dist/' },
  },
}
