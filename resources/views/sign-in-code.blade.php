<x-gate title="Second factor">
  <h1>Harbor Post</h1>
  <p class="soft">The password was right. Now the code that your device shows.</p>
  @if (session('bad'))
    <div class="notice bad" role="alert">@mark('stop')<span class="grow">{{ session('bad') }}</span></div>
  @endif
  <form class="form" method="post" action="{{ at('sign-in.code') }}">@csrf
    <div class="field"><span><label for="code">Code</label></span><input id="code" name="code" class="mono" inputmode="numeric"
        autocomplete="one-time-code" maxlength="20" autofocus required>
      <span class="hint">six digits; or, when the device is lost, one of the codes on paper</span>
    </div>
    <div class="row"><button class="btn main" data-key="main">Sign in</button> <a href="{{ at('login') }}">Start again</a></div>
  </form>
</x-gate>
