/** Where the key is given. It stands on its own: nothing of the application is served to somebody without the key. */
export const SIGN_IN_PAGE = `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width, initial-scale=1" />
    <title>Sign in · Fog Bath</title>
    <style>
      body { background: #1f1f1f; color: #ececec; font: 16px/1.4 'Arial Narrow', sans-serif; margin: 18vh auto; max-width: 26em; padding: 0 16px; }
      h1 { font-size: 20px; }
      input, button { border: 1px solid #b4b4b4; border-radius: 3px; font: inherit; padding: 8px 10px; }
      input { background: #282828; box-sizing: border-box; color: inherit; display: block; margin: 6px 0 12px; width: 100%; }
      button { background: #ee6a38; border-color: #ee6a38; color: #1a1a1a; cursor: pointer; }
      :focus-visible { outline: 2px solid #ee6a38; outline-offset: 2px; }
      [role='alert'] { color: #f0b04a; min-height: 1.4em; }
    </style>
  </head>
  <body>
    <main>
      <h1>Fog Bath</h1>
      <form>
        <label for="key">Key of this server</label>
        <input id="key" type="password" autocomplete="current-password" required autofocus />
        <button type="submit">Sign in</button>
        <p role="alert"></p>
        <p>The key stands in the file <code>key</code> of the server’s data folder.</p>
      </form>
    </main>
    <script src="/sign-in.js"></script>
  </body>
</html>
`

/** A file of its own, because the page's policy allows no script within it. */
export const SIGN_IN_SCRIPT = `document.querySelector('form').addEventListener('submit', async (e) => {
  e.preventDefault()
  const alert = document.querySelector('[role=alert]')
  alert.textContent = ''
  try {
    const reply = await fetch('/api/sign-in', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ key: document.querySelector('#key').value }),
    })
    if (reply.ok) location.assign('/')
    else alert.textContent = (await reply.json()).message
  } catch {
    alert.textContent = 'The server does not answer.'
  }
})
`
