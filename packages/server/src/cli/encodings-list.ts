import { ENCODINGS, hasWayBack, type Encoding } from '@fogbath/core/encodings'
import { loadEncodings } from './encodings'

/** An encoding in the list of the command line. */
interface Listed {
  /** By which it is asked for. */
  readonly name: string
  readonly refers: Encoding['refers'] | null
  readonly from: 'shipped' | 'file'
  /** Whether footage can be taken for it, and delivered in it. */
  readonly taken: boolean
  readonly delivered: boolean
  readonly about: string
  /** Why it cannot be taken. */
  readonly reason: string | null
}

/** Shipped encodings, then those of a file, then what cannot be taken of it. */
export async function listEncodings(file: string | undefined): Promise<readonly Listed[]> {
  const shipped = ENCODINGS.map(({ id, refers, label, help, encode }): Listed => ({
    name: id,
    refers,
    from: 'shipped',
    taken: true,
    delivered: encode !== null,
    about: `${label}. ${help}`,
    reason: null,
  }))
  if (file === undefined) return shipped
  const { encodings, left } = await loadEncodings(file)
  return [
    ...shipped,
    ...encodings.map((e): Listed => ({
      name: e.name,
      refers: e.refers,
      from: 'file',
      taken: true,
      delivered: hasWayBack(e),
      about: e.from,
      reason: null,
    })),
    ...left.map(({ name, reason }): Listed => ({
      name,
      refers: null,
      from: 'file',
      taken: false,
      delivered: false,
      about: '',
      reason,
    })),
  ]
}
