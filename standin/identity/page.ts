const escaped = (text: string): string =>
	text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** The page on which somebody signs in at the stand-in. */
export const signInPage = (why: string, mail: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Harbor sign-in</title>
<meta name="viewport" content="width=device-width"><style>
body{font:16px sans-serif;max-width:26em;margin:4em auto;padding:0 1em}label{display:block;margin:.8em 0 .2em}
input[type=email],input[type=password]{width:100%;padding:.5em;box-sizing:border-box}button{margin:1em .5em 0 0;padding:.5em 1em}
</style></head><body><h1>Harbor sign-in</h1><p>A stand-in for the district’s own sign-in.</p>
${why === '' ? '' : `<p role="alert">${escaped(why)}</p>`}
<form method="post"><label for="mail">Mail address</label><input id="mail" name="mail" type="email" value="${escaped(mail)}" required>
<label for="password">Password (of everybody: slow-ferry)</label><input id="password" name="password" type="password" required>
<p><label><input type="checkbox" name="factor" value="yes"> with a second factor</label></p>
<button name="what" value="in">Sign in</button><button name="what" value="no" formnovalidate>Do not</button></form>
</body></html>`;
