/** A4, black on white. The sheet stands in a page of its own or in a shadow root. */
export const STYLE = `
.paper { background: #fff; color: #111; font: 10.5px/1.35 'Archivo Narrow', 'Arial Narrow', sans-serif; width: 182mm; print-color-adjust: exact; }
.paper * { box-sizing: border-box; margin: 0; }
.paper .mono, .paper td, .paper .wedge th, .paper dd, .paper .figure { font-family: 'Spline Sans Mono', ui-monospace, monospace; font-variant-numeric: tabular-nums; }
.paper header { border-bottom: 1.5px solid #111; display: grid; gap: 2px 20px; grid-template-columns: 1fr auto; padding-bottom: 7px; }
.paper h1 { font-size: 25px; font-weight: 600; line-height: 1.1; }
.paper header p { font-size: 12px; max-width: 110mm; }
.paper header dl { display: grid; font-size: 9.5px; gap: 0 8px; grid-row: span 2; grid-template-columns: auto auto; align-content: start; }
.paper dt { color: #444; }
.paper dd { font-size: 9px; }
.paper header dd { text-align: right; }
.paper h2 { font-size: 13px; font-weight: 600; margin: 11px 0 4px; }
.paper .pictures { display: grid; gap: 5mm; grid-template-columns: 1fr 1fr; margin-top: 9px; }
.paper .pictures img { display: block; width: 100%; }
.paper figure { break-inside: avoid; }
.paper .pictures figcaption { color: #333; margin-top: 2px; }
.paper .strip { display: flex; height: 15px; align-items: stretch; margin-top: 2px; }
.paper .strip span { flex: 0 0 13mm; align-self: center; color: #444; }
.paper .strip i { border: solid #ccc; border-width: 0.5px 0; flex: 1; }
.paper .strip i:last-child { border-right-width: 0.5px; }
.paper .strip span + i { border-left-width: 0.5px; }
.paper .line ol { padding-left: 16px; }
.paper .line li { break-inside: avoid; margin-bottom: 4px; }
.paper .line li.out { color: #777; }
.paper .line li > span { color: #444; margin-left: 4px; }
.paper .line dl { columns: 2; column-gap: 8mm; }
.paper .line dl div { break-inside: avoid; display: flex; justify-content: space-between; gap: 8px; border-bottom: 0.5px dotted #bbb; }
.paper small { color: #666; font-size: 8px; }
.paper .usual, .paper .note { color: #555; }
.paper .figures { display: grid; gap: 1px 10mm; grid-template-columns: repeat(3, 1fr); }
.paper .figures div { border-bottom: 0.5px dotted #bbb; display: flex; justify-content: space-between; }
.paper .wedge { break-inside: avoid; }
.paper .mono { font-size: 0.86em; }
.paper .charts { display: grid; gap: 4px 8mm; grid-template-columns: 1fr 1fr; }
.paper .charts figcaption { font-weight: 600; margin-bottom: 1px; }
.paper svg { display: block; width: 100%; }
.paper svg text { fill: #333; font-size: 7.5px; }
.paper svg .axis { fill: #111; font-size: 8px; }
.paper .grid path { stroke: #d4d4d4; stroke-width: 0.5; }
.paper .zero { stroke: #888; stroke-width: 0.5; }
.paper .legend { display: flex; flex-wrap: wrap; gap: 0 10px; color: #333; font-size: 9px; }
.paper .legend span { align-items: center; display: inline-flex; gap: 3px; }
.paper .legend svg { width: 18px; }
.paper .legend i { display: inline-block; height: 7px; width: 7px; }
.paper .legend .gap { flex: 1; }
.paper table { border-collapse: collapse; width: 100%; }
.paper td, .paper .wedge th { font-size: 8px; font-weight: 400; line-height: 1.3; padding: 0 5px; text-align: right; }
.paper thead th { border-bottom: 0.5px solid #777; color: #333; }
.paper thead th[colspan] { border-bottom: 0; text-align: center; }
.paper td:nth-child(3n), .paper thead tr + tr th:nth-child(3n + 1) { padding-left: 12px; }
.paper td i { display: block; height: 9px; width: 26px; }
.paper footer { border-top: 0.5px solid #777; color: #444; display: flex; font-size: 8px; gap: 12px; justify-content: space-between; margin-top: 9px; overflow-wrap: anywhere; padding-top: 3px; }
.paper footer span { min-width: 0; }
`
