<x-gate title="Sign in">
  <h1>Harbor Post</h1>
  <p class="soft">Plan space, keep names, run leases. You see what follows before you do it.</p>
  @if (session('bad'))
    <div class="notice bad" role="alert">@mark('stop')<span class="grow">{{ session('bad') }}</span></div>
  @endif
  @foreach ($errors->all() as $error)
    <p class="wrong" role="alert">{{ $error }}</p>
  @endforeach
  <form class="form" method="post" action="{{ at('login') }}">@csrf
    <div class="field"><span><label for="sign_in">Sign-in name</label></span><input id="sign_in" name="sign_in" value="{{ old('sign_in') }}"
        autocomplete="username" autocapitalize="none" autofocus required></div>
    <div class="field"><span><label for="password">Password</label></span><input id="password" name="password" type="password"
        autocomplete="current-password" required></div>
    <div class="row"><button class="btn main" data-key="main">Sign in</button></div>
  </form>
  @if (config('harbor.oidc.issuer') !== '')
    <p class="row"><a class="btn" href="{{ at('sign-in.with') }}">Sign in at {{ config('harbor.oidc.name') }}</a></p>
  @endif
  @if (config('harbor.demo'))
    <section aria-label="Demo sign-ins">
      <h2>Kittiwake Ferries, a made-up operator</h2>
      <p class="hint">Everybody's password is <code>{{ \Database\Scenario\Kittiwake::PASSWORD }}</code></p>
      <table class="plain">
        <thead>
          <tr>
            <th>Sign-in</th>
            <th>Who</th>
          </tr>
        </thead>
        <tbody>
          @php
          $people = [
              'maren' => 'plans space, and operates',
              'ilke' => 'operates: hosts, records, scopes',
              'tobin' => 'approves drafts',
              'quill' => 'Harbour Authority\'s own admin, sees its gates only',
              'wick' => 'reads',
              'sable' => 'steward: people, grants, servers',
          ];
          @endphp
        @foreach ($people as $who => $what)
            <tr>
              <td class="mono">{{ $who }}</td>
              <td>{{ $what }}</td>
            </tr>
          @endforeach
        </tbody>
      </table>
    </section>
  @endif
</x-gate>
