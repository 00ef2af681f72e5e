<x-layout title="Second factor">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('me') }}">You</a></li>
      <li aria-current="page">Second factor</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Second factor</h1>
    <span class="soft">codes of six digits that change every half minute (RFC 6238)</span>
  </header>
  <section class="panel pad-all stack narrow">
    <ol class="lines">
      <li>In the application on your device that makes such codes, add an account: read this picture with it, or type the secret.
        <div data-qr="{{ $uri }}" data-label="The secret, to be read by a camera"></div>
        <code class="mono big">{{ implode(' ', str_split($secret, 4)) }}</code>
        <br><span class="hint">On the device itself: <a href="{{ $uri }}">open it there</a>.</span>
      </li>
      <li>Type the code that it shows now, and your password. From then on both are asked for.</li>
    </ol>
    <form class="form" method="post" action="{{ at('act', 'set-second-factor') }}">@csrf
      <input type="hidden" name="then" value="commit">
      <input type="hidden" name="secret" value="{{ $secret }}">
      <div class="field"><span><label for="code">Code</label></span><input id="code" name="code" class="mono" inputmode="numeric"
          autocomplete="one-time-code" maxlength="10" required></div>
      <div class="field"><span><label for="password">Present password</label></span><input id="password" name="password" type="password"
          autocomplete="current-password" required></div>
      <div class="decide"><button class="btn main" data-key="main">Set it up <kbd>Ctrl Enter</kbd></button></div>
      <p class="hint">Your other sessions end, and eight codes for paper are shown once.</p>
    </form>
  </section>
</x-layout>
