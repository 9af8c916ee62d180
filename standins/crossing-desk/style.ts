export const style = `
:root { color-scheme: light; --sea: #0b4a5a; --sand: #f6f1e7; --ink: #1d2b2f; --line: #c9bfa9; --sun: #b4520f }
* { box-sizing: border-box }
body { margin: 0; background: var(--sand); color: var(--ink); font: 16px/1.5 Georgia, 'Times New Roman', serif }
.top { display: flex; flex-wrap: wrap; gap: 8px 28px; align-items: baseline; background: var(--sea); color: #fff; padding: 10px 24px }
.top a { color: #fff }
.brand { text-decoration: none; font-size: 20px }
.brand small { opacity: .85; font-size: 13px }
nav { display: flex; flex-wrap: wrap; gap: 4px 16px }
.clock { margin: 0 0 0 auto; font-variant-numeric: tabular-nums }
main { max-width: 880px; margin: 0 auto; padding: 16px 24px 96px }
h1 { font-size: 26px; font-weight: normal; margin: 8px 0 16px }
h2 { font-size: 18px; margin: 26px 0 8px; border-bottom: 1px solid var(--line) }
table { border-collapse: collapse; width: 100%; margin: 8px 0 16px; background: #fffdf8 }
th, td { text-align: left; padding: 6px 10px; border-bottom: 1px solid var(--line) }
.amount, th[data-last=amount] { text-align: right; font-variant-numeric: tabular-nums }
.sum td { font-weight: bold }
.lines { display: flex; flex-wrap: wrap; gap: 10px 16px; align-items: end; margin: 8px 0 }
.lines:has(table) { display: block }
.inline { display: inline-flex; gap: 8px; align-items: end; margin: 4px 12px 4px 0 }
label span { display: block; font-size: 13px }
input, select { font: inherit; padding: 6px 8px; border: 1px solid #7c8a86; background: #fff; height: 38px; max-width: 100% }
.tick input { height: auto }
.tick { min-height: 38px; display: flex; gap: 6px; align-items: center }
button, .button { font: inherit; padding: 6px 14px; min-height: 38px; border: 1px solid var(--sun); background: var(--sun); color: #fff; cursor: pointer; text-decoration: none; display: inline-block }
button.quiet { background: none; color: var(--sun); border-color: transparent }
button:disabled { background: #8a8378; border-color: #8a8378 }
:focus-visible { outline: 3px solid #1a7fa0; outline-offset: 2px }
.told { background: #e2efe0; padding: 8px 12px; border-left: 4px solid #2f6b34 }
.refused { background: #fbe6dc; padding: 8px 12px; border-left: 4px solid #a5311a }
.hold { background: #fff; border: 1px solid var(--line); padding: 6px 12px; display: inline-block; font-variant-numeric: tabular-nums }
.ticket { display: flex; flex-wrap: wrap; gap: 8px 20px; background: #fffdf8; border: 1px dashed var(--line); padding: 10px 14px; align-items: baseline }
.ticket .port { font-size: 20px; overflow-wrap: anywhere }
.ticket[data-runs-over] { flex-wrap: nowrap }
.ticket[data-runs-over] .port { width: 92px; flex: none; overflow-wrap: normal; white-space: nowrap }
.hint { font-size: 14px; color: #55605c; flex-basis: 100%; margin: 0 }
.hint[data-pale] { color: #a3a8a2 }
.vehicle { display: block }
.acts { display: flex; gap: 12px; align-items: center }
.hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%) }
footer { display: flex; flex-wrap: wrap; gap: 8px 24px; align-items: center; border-top: 1px solid var(--line); padding: 10px 24px; background: #ece4d3; font-size: 14px }
footer .inline { align-items: center; margin: 0 }
td .inline { margin: 0 }
footer button { background: none; color: var(--sea); border-color: transparent }
footer button[aria-pressed=true] { border-color: var(--sea) }
footer a { color: var(--sea) }
body[data-footer=over] footer { position: fixed; left: 0; right: 0; bottom: 0; height: 120px }
body[data-footer=over] main { padding-bottom: 0 }
`
