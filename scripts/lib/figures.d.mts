export declare const median: (values: readonly number[]) => number
export declare function figure(
  name: string,
  value: number,
  unit: string,
  wanted?: { readonly must: number; readonly goal: number; readonly least?: boolean } | null,
): void
