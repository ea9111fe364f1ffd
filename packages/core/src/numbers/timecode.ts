/** hh:mm:ss:ff of a frame at a clip's nominal rate. @param fps such as '24' or '24000/1001' */
export function timecode(frame: number, fps: string): string {
  const [over, under = 1] = fps.split('/').map(Number) as [number, number?]
  const base = Math.round(over / under) || 24
  return [
    Math.floor(frame / base / 3600),
    Math.floor(frame / base / 60) % 60,
    Math.floor(frame / base) % 60,
    frame % base,
  ]
    .map((v) => String(v).padStart(2, '0'))
    .join(':')
}
