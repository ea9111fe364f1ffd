/** A name with its %04d filled in. */
export const numbered = (name: string, i: number): string =>
  name.replace(/%0?(\d*)d/, (_, digits: string) => String(i).padStart(Number(digits || 1), '0'))
