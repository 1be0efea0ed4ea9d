/** The looks of the practice yard: a clipboard, plainer than Grammata itself. */
export const style = `
:root{color-scheme:light dark;--bg:#eef1ee;--sheet:#fff;--ink:#1d2421;--soft:#525c57;--line:#c9d1cc;--go:#1f5d4c;--go-ink:#fff;--bad:#9c1c35}
@media(prefers-color-scheme:dark){:root{--bg:#141816;--sheet:#1c211f;--ink:#e3e8e5;--soft:#a6b0ab;--line:#363e3a;--go:#7cc4b0;--go-ink:#10201b;--bad:#f2879a}}
*{box-sizing:border-box}body{margin:0;background:var(--bg);color:var(--ink);font:16px/1.5 system-ui,sans-serif}
header{display:flex;gap:1rem;padding:.8rem 1.5rem;color:var(--soft);font-size:.9rem}header a{color:inherit;font-weight:600}
main{max-width:46rem;margin:1rem auto 4rem;background:var(--sheet);border:1px solid var(--line);padding:2rem 2.25rem}
body:has(table.wide) main{max-width:calc(100% - 3rem)}
h1{font-size:1.6rem;line-height:1.2;margin:0 0 .35rem}h2{font-size:1.1rem;margin:2rem 0 .6rem}p{margin:0 0 1rem}.soft{color:var(--soft)}.bad{color:var(--bad)}
label,legend{font-weight:600;display:block;padding:0}.q{margin:0 0 1.2rem;border:0;padding:0}.q .hint{font-weight:400;color:var(--soft);margin-left:.4rem}
input[type=text],input[type=email],input[type=number],input[type=url],input[type=file],textarea,select{font:inherit;color:inherit;width:100%;padding:.45rem .6rem;background:var(--bg);border:1px solid var(--soft);border-radius:0}
.check{display:flex;gap:.5rem;font-weight:400;align-items:baseline;padding:.1rem 0}
button{font:inherit;font-weight:600;padding:.5rem 1.1rem;border:0;background:var(--go);color:var(--go-ink);cursor:pointer}
:focus-visible{outline:3px solid var(--go);outline-offset:2px}
.where{border:1px solid var(--line);border-left:4px solid var(--go);padding:1rem 1.2rem;margin:1rem 0 2rem}.where form{display:flex;flex-wrap:wrap;gap:.6rem;margin-top:.4rem}.where input{flex:1 1 100%}.where label{flex:1 1 40%;font-size:.9rem}.where label select{font-weight:400}.where button{align-self:end}.cells{display:flex;gap:.6rem;margin:0 0 .5rem}.cells>*{flex:1}button.quiet{background:none;color:var(--go);border:1px solid var(--go)}
.scroll{overflow-x:auto}table{border-collapse:collapse;width:100%;font-size:.85rem}th,td{text-align:left;vertical-align:top;padding:.4rem .7rem .4rem 0;border-bottom:1px solid var(--line)}th{color:var(--soft);white-space:nowrap}td{font-family:ui-monospace,monospace;overflow-wrap:break-word}table.wide td{min-width:8.5rem}table.wide td:nth-child(8){min-width:16rem}table.wide td:first-child{min-width:3rem}
a{color:var(--go)}.row{display:flex;gap:.8rem;flex-wrap:wrap;align-items:end}
`;
