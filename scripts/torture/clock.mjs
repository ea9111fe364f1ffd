// Loaded before the server (node --import): its clock is wrong by FOGBATH_CLOCK hours.
const by = Number(process.env.FOGBATH_CLOCK ?? 0) * 3_600_000

if (by !== 0) {
  const Right = globalThis.Date
  globalThis.Date = class Date extends Right {
    constructor(...args) {
      super(...(args.length === 0 ? [Right.now() + by] : args))
    }
    static now() {
      return Right.now() + by
    }
  }
}
