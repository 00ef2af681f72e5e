<x-gate title="The first person">
  <h1>Nobody is here yet</h1>
  <p class="soft">Make the first person. They are steward, planner and operator, so that a space, a site, a zone, a scope, a server and further
    people can be made from here.</p>
  @if (session('bad'))
    <div class="notice bad" role="alert">@mark('stop')<span class="grow">{{ session('bad') }}</span></div>
  @endif
  <form class="form" method="post" action="{{ at('first-person') }}">@csrf
    <div class="field"><span><label for="name">Name</label></span><input id="name" name="name" value="{{ old('name') }}"
        autocomplete="name" autofocus required></div>
    <div class="field"><span><label for="signIn">Sign-in name</label></span><input id="signIn" name="signIn" value="{{ old('signIn') }}"
        autocomplete="username" autocapitalize="none" required></div>
    <div class="field"><span><label for="password">Password</label></span><input id="password" name="password" type="password"
        autocomplete="new-password" required><span class="hint">at least ten characters, and not the sign-in name</span></div>
    @if ($coded)
      <div class="field"><span><label for="code">Code from the terminal</label></span><input id="code" name="code" class="mono"
          autocomplete="off" required></div>
    @endif
    <div class="row"><button class="btn main" data-key="main">Make this person</button></div>
  </form>
</x-gate>
