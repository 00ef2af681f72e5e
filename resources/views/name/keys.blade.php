<x-layout title="Keys" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li aria-current="page">Keys</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Keys</h1>
    <span class="soft">shared secrets that sign transfers and updates (RFC 8945)</span>
  </header>
  <div class="split two">
    <section class="panel">
      @if ($keys->isEmpty())
        <div class="empty">
          <h3>No key yet</h3>
          <p class="soft">A key is stronger than an address: it cannot be forged. Make one, name it in who may copy or update a zone, and ship.</p>
        </div>
      @else
        <div class="scroll-x" tabindex="0" role="region" aria-label="Keys">
        <table data-worktable>
          <thead>
            <tr>
              <th>Key</th>
              <th>For</th>
              <th>Signs with</th>
              <th>Zones and servers that use it</th>
              <th>Secret</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            @foreach ($keys as $k)
              <tr>
                <td class="name mono">{{ $k->title() }}</td>
                <td class="wrap">{{ $k->description }}</td>
                <td>{{ $k->algorithm->value }}</td>
                <td class="wrap">
                  @foreach ($used[$k->name] ?? [] as $z)
                    <a href="{{ at('name.zone.service', $z->id) }}">{{ $z->title() }}</a>{{ $loop->last ? '' : ',' }}
                  @endforeach
                  @foreach ($servers[$k->id] ?? [] as $s)
                    <a href="{{ at('ship.server', $s->id) }}">{{ $s->name }}</a>{{ $loop->last ? '' : ',' }}
                  @endforeach
                  @if (!isset($used[$k->name]) && !isset($servers[$k->id]))
                    <span class="open">none</span>
                  @endif
                </td>
                <td>
                  @if ((session('secret')[0] ?? null) === $k->id)
                    <code class="mono wrap">{{ Illuminate\Support\Facades\Crypt::decryptString(session('secret')[1]) }}</code>
                  @else
                    <form method="post" action="{{ at('name.key.secret', $k->id) }}" class="row tight">@csrf
                      @unless ($sure)
                        <input type="password" name="sure" required maxlength="200" autocomplete="current-password" placeholder="your password"
                          aria-label="Your password, to show the secret of {{ $k->title() }}">
                      @endunless
                      <button class="btn small" aria-label="Show the secret of {{ $k->title() }}">Show once</button>
                    </form>
                  @endif
                </td>
                <td>
                  <x-cut :id="'cut' . $k->id" action="remove-key" :input="['key' => $k->id]" label="Remove" :of="$k->title()" />
                </td>
              </tr>
            @endforeach
          </tbody>
        </table>
        </div>
      @endif
    </section>
    <aside class="side">
      <section class="panel">
        <header>
          <h2>Make a key</h2>
        </header>
        <div class="pad">
          <x-act id="key" action="make-key">
            <x-field form="key" name="name" label="Name" mono placeholder="lamp1-lamp2.kittiwake.example" />
            <x-field form="key" name="description" label="For" />
            <x-field form="key" name="algorithm" label="Signs with"
              :options="array_column(HarborPost\Core\Dns\Wire\TsigAlgorithm::cases(), 'value', 'value')" />
            <x-field form="key" name="secret" label="Secret in base 64, if the other end has one" type="password" autocomplete="new-password"
              hint="blank draws random bytes of the right length" />
          </x-act>
        </div>
      </section>
      <x-follows-slot form="key" />
    </aside>
  </div>
</x-layout>
