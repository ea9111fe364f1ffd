// What the scripts print: plain sentences. A Problem ends a script with its sentence and no stack.
export class Problem extends Error {}

export const say = (text) => process.stdout.write(`${text}\n`)

/** Runs a script's main function; whatever goes wrong becomes one sentence and exit code 1. */
export async function run(main) {
  try {
    process.exitCode = (await main()) ?? 0
  } catch (error) {
    const full = error?.code === 'ENOSPC' ? 'The disk is full; make room and start again.' : null
    process.stderr.write(
      `${full ?? (error instanceof Problem ? error.message : `Something went wrong: ${error?.message ?? error}`)}\n`,
    )
    if (!(error instanceof Problem) && process.env.FOGBATH_DEBUG) console.error(error)
    process.exitCode = 1
  }
}
