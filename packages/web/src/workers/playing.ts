import { ClipPlayer } from './clip/player'
import type { FrameStore, FrameSupply } from './frames'
import { playFrames, playPlaces } from './play'
import type { FootageSource, Painted, PictureRequest, PlayRequest } from './protocol'
import { beginningsOf, placeAt, secondsAt, type ReelPart, type ReelPlace, type ReelRequest } from './reel'

/** Playing waits so long for a clip to be opened. */
const OPENING_MS = 500
/** As many frames are fetched ahead. */
const AHEAD = 6
/** So long before a shot ends, the next one is made ready, seconds. */
const READY_BEFORE = 1.5
/** What a shot needs besides its frames is made ready on a picture so wide. */
const READY_WIDTH = 64

interface Drawing {
  readonly frames: FrameStore
  /** What is asked for now; it may change while it plays. */
  readonly latest: () => PictureRequest
  readonly draw: (request: PictureRequest, going: () => boolean) => Promise<Painted>
  /** Works out what a picture needs that does not depend on its frame. */
  readonly warm: (request: PictureRequest) => Promise<void>
}

/** Plays a range of one shot, or all shots one after the other: sets the pace, and has frames and clips ready. */
export class Playing {
  private current: object | undefined
  /** One clip plays while the next one opens. */
  private readonly clips = [new ClipPlayer(), new ClipPlayer()] as const

  constructor(private readonly drawing: Drawing) {}

  get going(): boolean {
    return this.current !== undefined
  }

  stop(): void {
    this.current = undefined
    this.drawing.frames.supply = undefined
  }

  /** Plays until stop(). @param onFrame is told the frame shown, the rate, the painter */
  async play(request: PlayRequest, onFrame: (frame: number, rate: number, by: Painted) => void): Promise<void> {
    const going = this.begin(request)
    let by: Painted = 'processor'
    const { latest, draw } = this.drawing
    // A clip is decoded from one frame to the next.
    await this.open(request.speed === 1 ? request.clip : null, 0, going)
    await playFrames(request, latest().frame, {
      going,
      show: async (frame) => {
        this.fetchAhead(frame, request)
        by = await draw({ ...latest(), frame }, going)
      },
      onFrame: (frame, rate) => onFrame(frame, rate, by),
    }).finally(() => going() && this.stop())
  }

  /** Plays shots one after the other, each as its edit shows it. @param onPlace is told the place shown, the rate, the painter */
  async playReel(
    { parts, from, loop }: ReelRequest,
    onPlace: (place: ReelPlace, rate: number, by: Painted) => void,
  ): Promise<void> {
    const going = this.begin({})
    const beginnings = beginningsOf(parts)
    const whole = beginnings.at(-1)!
    const start = secondsAt(parts, beginnings, from)
    let by: Painted = 'processor'
    let ready = from.index
    let place: ReelPlace = from
    await this.open(parts[from.index]!.speed === 1 ? parts[from.index]!.clip : null, from.index, going)
    await playPlaces(
      (seconds): ReelPlace | null => {
        const now = start + seconds
        const found = placeAt(parts, beginnings, loop ? now % whole : now)
        const same = found && found.index === place.index && found.frame === place.frame
        const next = place.index + 1 < parts.length ? place.index + 1 : loop ? 0 : place.index
        if (next !== ready && beginnings[place.index + 1]! - (now % whole) < READY_BEFORE) {
          ready = next
          void this.makeReady(parts[next]!, next, going)
        }
        // The same object as long as it is the same place.
        return same ? place : (place = found ?? place) && found
      },
      {
        going,
        show: async (shown) => {
          const part = parts[shown.index]!
          if (part.speed === 1) this.fetchFrom(part.source, shown.frame, part)
          by = await this.drawing.draw(this.requestOf(part, shown.frame), going)
        },
        onFrame: (shown, rate) => onPlace(shown, rate, by),
      },
    ).finally(() => going() && this.stop())
  }

  private begin(token: object): () => boolean {
    this.current = token
    return () => this.current === token
  }

  /** A shot of the reel, shown as the bench shows its own. */
  private requestOf({ source, order, width }: ReelPart, frame: number): PictureRequest {
    const asked = this.drawing.latest()
    const compare = asked.compare.mode === 'footage' ? asked.compare : ({ mode: 'off' } as const)
    const none = { tap: null, mask: null, under: null, skin: null, greyCode: null }
    return { ...asked, ...none, source, order, frame, compare, width: Math.min(width, asked.width) }
  }

  private async makeReady(part: ReelPart, index: number, going: () => boolean): Promise<void> {
    const begins = part.speed < 0 ? part.last : part.first
    const small = { ...this.requestOf(part, begins), width: READY_WIDTH }
    // What fails here fails again where it is shown, and is told there.
    await this.drawing.warm(small).catch(() => undefined)
    if (!going()) return
    await this.open(part.speed === 1 ? part.clip : null, index, going)
    if (going()) this.fetchFrom(part.source, begins - 1, part)
  }

  /** A clip that takes longer to open begins with frames from the server. */
  private async open(clip: PlayRequest['clip'], index: number, going: () => boolean): Promise<void> {
    if (!clip) return
    const mine = this.clips[index % 2]!
    const opening = mine.open(clip).then(() => {
      if (going()) this.drawing.frames.supply = this.supply
    })
    await Promise.race([opening, new Promise((resolve) => setTimeout(resolve, OPENING_MS))])
  }
  private readonly supply: FrameSupply = (medium, frame, width) =>
    this.clips[0].frame(medium, frame, width) ?? this.clips[1].frame(medium, frame, width)

  private fetchAhead(frame: number, { first, last, speed }: PlayRequest): void {
    const { source, width } = this.drawing.latest()
    if (source.type !== 'shot') return
    const length = last - first + 1
    for (let i = 1; i <= AHEAD; i++)
      this.fetch(source, first + ((((frame - first + Math.round(i * speed)) % length) + length) % length), width)
  }

  private fetchFrom(source: FootageSource, frame: number, { last, width }: ReelPart): void {
    const shown = Math.min(width, this.drawing.latest().width)
    for (let i = 1; i <= AHEAD && frame + i <= last; i++) this.fetch(source, frame + i, shown)
  }

  private fetch(source: FootageSource, frame: number, width: number): void {
    void this.drawing.frames.get(source, frame, width).catch(() => undefined)
  }
}
