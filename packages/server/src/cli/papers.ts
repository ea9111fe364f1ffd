import type { Command } from 'commander'

/** What the shell is told of the command line, and its manual: all made from the same descriptions. */

interface Told {
  readonly name: string
  readonly description: string
  readonly usage: string
  readonly options: readonly { readonly flags: string; readonly long: string; readonly description: string }[]
}
const told = (program: Command): Told[] =>
  program.commands.map((command) => ({
    name: command.name(),
    description: command.description(),
    usage: command.usage(),
    options: command.options.map(({ flags, long, description }) => ({ flags, long: long ?? '', description })),
  }))

/** @returns a script that completes commands and their options; files for all else */
export function completion(program: Command, shell: 'bash' | 'zsh'): string {
  const commands = told(program)
  const name = program.name()
  if (shell === 'zsh') {
    const quote = (text: string): string => text.replace(/'/g, '’').replace(/[[\]:]/g, ' ')
    const cases = commands.map(({ name: of, options }) => {
      const all = options.map(({ long, description }) => `'${long}[${quote(description)}]'`).join(' ')
      return `    ${of}) _arguments ${all} '*:file:_files' ;;`
    })
    const list = commands.map(({ name: of, description }) => `    '${of}:${quote(description)}'`)
    return [
      `#compdef ${name}`,
      `_${name}() {`,
      '  local -a commands=(',
      ...list,
      '  )',
      '  if (( CURRENT == 2 )); then _describe command commands; return; fi',
      '  case ${words[2]} in',
      ...cases,
      '  esac',
      '}',
      `compdef _${name} ${name}`,
      '',
    ].join('\n')
  }
  const cases = commands.map(({ name: of, options }) => `    ${of}) words="${options.map((o) => o.long).join(' ')}" ;;`)
  return [
    `_${name}() {`,
    '  local word="${COMP_WORDS[COMP_CWORD]}" words=""',
    `  if [ "$COMP_CWORD" -eq 1 ]; then words="${commands.map((c) => c.name).join(' ')}"`,
    '  else case "${COMP_WORDS[1]}" in',
    ...cases,
    '  esac; fi',
    '  COMPREPLY=($(compgen -W "$words" -- "$word"))',
    '  [ "${word#-}" = "$word" ] && [ "$COMP_CWORD" -gt 1 ] && COMPREPLY+=($(compgen -f -- "$word"))',
    '  return 0',
    '}',
    `complete -o filenames -F _${name} ${name}`,
    '',
  ].join('\n')
}

/** Lines of a page of the manual (man(7)): what begins with a dot or a quote would be a request. */
const roff = (text: string): string =>
  text
    .replace(/\\/g, '\\e')
    .replace(/-/g, '\\-')
    .replace(/^([.'])/gm, '\\&$1')

/** @param exits how the program ends, by its number */
export function manual(program: Command, exits: Readonly<Record<number, string>>): string {
  const name = program.name()
  const commands = told(program).flatMap(({ name: of, description, usage, options }) => [
    `.SS ${roff(`${name} ${of} ${usage}`)}`,
    roff(`${description[0]!.toUpperCase()}${description.slice(1)}.`),
    ...options.flatMap((o) => ['.TP', `.B ${roff(o.flags)}`, roff(o.description)]),
  ])
  return [
    `.TH ${name.toUpperCase()} 1`,
    '.SH NAME',
    roff(`${name} - ${program.description()}`),
    '.SH SYNOPSIS',
    `.B ${name}`,
    roff('<command> [options]'),
    '.SH COMMANDS',
    ...commands,
    '.SH EXIT STATUS',
    ...Object.entries(exits).flatMap(([code, means]) => ['.TP', `.B ${code}`, roff(means)]),
    '',
  ].join('\n')
}
