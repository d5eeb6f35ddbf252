const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.codePointAt(0)};`);

/** The page that asks for a name: complete in itself, for nothing else is open to who has not given one. */
export const signInPage = ({
  next,
  name,
  problem,
}: {
  next: string;
  name: string;
  problem: string | null;
}): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="color-scheme" content="light dark">
<title>Sign in, Tassel</title>
<style>
:root { --room: #efefef; --sheet: #fafafa; --line: #d9d9d9; --ink: #1c1b1d; --soft: #66646a; --plum: #6a2a5b;
  --on: #fff; --warn: #855000; --wash: #fdf1dc; color-scheme: light dark; }
@media (prefers-color-scheme: dark) { :root { --room: #161616; --sheet: #202020; --line: #3a3a3a; --ink: #f0eff1;
  --soft: #a9a6ad; --plum: #d79ac6; --on: #1d1019; --warn: #f2b85f; --wash: #382a12; } }
* { box-sizing: border-box; }
body { margin: 0; min-height: 100vh; display: grid; place-items: center; padding: 24px; background: var(--room);
  color: var(--ink); font: 15px/1.45 system-ui, sans-serif; }
form { width: min(100%, 340px); display: grid; gap: 14px; background: var(--sheet); border: 1px solid var(--line);
  padding: 26px 24px; }
h1 { font-size: 22px; margin: 0; }
label { display: grid; gap: 4px; font-size: 13.5px; color: var(--soft); }
input { font: inherit; font-size: 16px; color: var(--ink); background: var(--room); border: 1px solid var(--line);
  border-radius: 6px; padding: 8px 10px; }
button { font: inherit; font-weight: 600; border: 0; border-radius: 9px; padding: 10px; background: var(--plum);
  color: var(--on); cursor: pointer; }
:focus-visible { outline: 2px solid var(--plum); outline-offset: 2px; }
p { margin: 0; padding: 8px 10px; background: var(--wash); color: var(--warn); font-size: 14px; }
</style>
</head>
<body>
<form method="post" action="/sign-in">
<h1>Tassel</h1>
${problem ? `<p role="alert">${escaped(problem)}</p>` : ''}
<label>Name<input name="name" value="${escaped(name)}" autocomplete="username" required maxlength="80"
${name ? '' : 'autofocus'}></label>
<label>Passphrase<input name="passphrase" type="password" autocomplete="current-password" required maxlength="1000"
${name ? 'autofocus' : ''}></label>
<input type="hidden" name="next" value="${escaped(next)}">
<button>Sign in</button>
</form>
</body>
</html>
`;
