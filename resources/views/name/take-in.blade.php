<x-layout title="Take a zone in" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li aria-current="page">Take a zone in</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Take a zone in by transfer</h1>
    <span class="soft">copied by AXFR (RFC 5936) from any server that lets it, then looked at before anything is written</span>
  </header>
  @if ($problem)
    <div class="fault" role="alert">
      <h3>@mark('stop')The zone could not be copied</h3>
      <p>{{ $problem }}</p>
      <p class="soft">Nothing was written. A server lets those copy whom its list of addresses or keys names.</p>
    </div>
  @endif
  <div class="split two">
    <section class="panel">
      <div class="pad">
        <form method="post" action="{{ at('name.take-in') }}" class="form">@csrf
          <input type="hidden" name="_form" value="takein">
          <x-field form="takein" name="name" label="Zone" mono placeholder="harbour.example" />
          <div class="pair">
            <x-field form="takein" name="server" label="Copied from" :options="$choices->servers(...\App\Models\ServerKind::naming())" />
            <x-field form="takein" name="view" label="Into the view" :options="$choices->views()" />
          </div>
          <x-field form="takein" name="key" label="Signed by" :options="$keys" blank="no key" />
          @if ($may)
            <div class="decide"><button class="btn main" data-key="main">Copy and look at it <kbd>Ctrl Enter</kbd></button></div>
          @endif
        </form>
      </div>
    </section>
    <aside class="side">
      <p class="hint">A zone that is not in the plan is made first, with the DNS servers of the directory. One that is there is compared: what is
        new, what differs, what the server does not have.</p>
    </aside>
  </div>
</x-layout>
