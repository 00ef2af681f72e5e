@php
  $say = ['own zones' => 'Own zones only', 'by a forwarder' => 'By a forwarder', 'by the roots' => 'By the roots', 'nothing' => 'Nothing'];
  $mark = ['asked' => 'turn', 'answered' => 'ok', 'silent' => 'stop', 'refused' => 'stop', 'loop' => 'warn'];
@endphp
<x-layout title="Resolvers" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li aria-current="page">Resolvers</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Resolvers</h1>
    <span class="soft">how a name that is in none of our zones is found</span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Settings</h2>
          <span class="soft" data-needs-pick hidden><span data-picked>0</span> picked</span>
        </header>
        <x-table label="Settings" data-worktable>
          <thead>
            <tr>
              @if ($may)
                <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
              @endif
              <th>Server</th>
              <th>Recursion</th>
              <th>Forwarders, in order</th>
              <th>When none answers</th>
              <th>Root hints</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($servers as $s)
              @php
                $o = $s->resolving ?? [];
              @endphp
              <tr>
                @if ($may)
                  <td class="pickcell"><input type="checkbox" class="pick" form="resolving" name="servers[]" value="{{ $s->id }}"
                      aria-label="Pick {{ $s->name }}"></td>
                @endif
                <td class="name"><a href="{{ at('ship.server', $s->id) }}">{{ $s->name }}</a>
                  <span class="mono soft">{{ $s->address }}</span>
                </td>
                <td>
                  @if ($o['recursion'] ?? false)
                    on
                  @elseif(($o['forwarders'] ?? []) !== [])
                    <span class="warn">@mark('warn') off, so its forwarders are dead</span>
                  @else
                    <span class="open">off, own zones only</span>
                  @endif
                </td>
                <td class="mono wrap">
                  @forelse($o['forwarders'] ?? [] as $f)
                    {{ $servers->first(fn($x) => (string) $x->address === $f)?->name ?? $f }}{{ $loop->last ? '' : ' → ' }}@empty
                    <span class="open">none</span>
                    @endforelse @foreach ($o['zones'] ?? [] as $z)
                      <br><span class="hint">{{ rtrim($z['zone'], '.') }} {{ $z['kind'] }}: {{ implode(', ', $z['addresses']) }}</span>
                    @endforeach
                </td>
                <td>
                  @if ($o['recursion'] ?? false)
                    {{ ($o['fallback'] ?? false) || ($o['forwarders'] ?? []) === [] ? 'asks the roots' : 'gives up' }}
                  @endif
                </td>
                <td><a href="{{ at('name.resolver.hints', $s->id) }}">{{ count($o['hints'] ?? []) }}</a>
                  @if ($o['hints_at'] ?? null)
                    <span class="hint">{{ \Carbon\CarbonImmutable::parse($o['hints_at'])->diffForHumans() }},
                      {{ $o['hints_from'] ?? '' }}</span>
                  @endif
                </td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
      <section class="panel" id="path">
        <header>
          <h2>The path of a question</h2>
        </header>
        <form class="bar-line" action="{{ at('name.resolvers') }}#path">
          <div class="field"><span><label for="client">A client at</label></span><input id="client" name="client" class="mono"
              value="{{ $client }}" placeholder="10.36.8.20" size="16"></div>
          <div class="field"><span><label for="resolvers">with the resolvers</label></span><input id="resolvers" name="resolvers" class="mono"
              value="{{ $typed ? implode(', ', $resolvers) : '' }}" placeholder="{{ implode(', ', $resolvers) ?: 'none given' }}" size="24">
          </div>
          <div class="field"><span><label for="name">asks for</label></span><input id="name" name="name" class="mono"
              value="{{ rtrim((string) $name, '.') }}" size="26" @if (!$name) aria-invalid="true" @endif></div>
          <fieldset class="field">
            <legend>Switched off</legend><span class="row">
              @foreach ($servers as $s)
                <label class="tick"><input type="checkbox" name="off[]" value="{{ $s->id }}"
                    @checked(in_array($s->id, $off, true))>{{ $s->name }}</label>
              @endforeach
            </span>
          </fieldset>
          <span class="row"><button class="btn main" data-key="main">Compute <kbd>Ctrl Enter</kbd></button>
            @if ($may)
              <button class="btn" formmethod="post" formaction="{{ at('name.resolvers') }}">Try it on the stand-ins</button>
            @endif
          </span>
          @csrf
        </form>
        @if ($path)
          <div class="split even pad">
            <div>
              <h3>Computed: {{ $say[$path->verdict] }}</h3>
              <p>{{ ucfirst($path->words) }}.</p>
              @if ($path->exposure)
                <p class="warn">@mark('warn') {{ ucfirst($path->exposure) }}.</p>
              @endif
            </div>
            @if ($observed)
              <div>
                <h3>Observed: {{ $say[$observed['verdict']] ?? $observed['verdict'] }} @if ($observed['verdict'] === $path->verdict)
                    @mark('ok', 'the same')
                  @else
                    @mark('warn', 'not the same')
                  @endif
                </h3>
                <p>{{ $observed['words'] }}</p>
                <ul class="lines">
                  @foreach ($observed['trail'] as $t)
                    <li class="mono">{{ $t }}</li>
                  @endforeach
                </ul>
              </div>
            @endif
          </div>
          <ol class="hops">
            @foreach ($path->hops as $h)
              <li class="{{ $h['state'] }}"><span class="who">{{ $h['from'] }}</span><svg width="60" height="14" aria-hidden="true">
                  <path d="M2 7h54m-6-5 6 5-6 5" />
                </svg><span class="whom">@mark($mark[$h['state']], $h['state']) <b>{{ $h['to'] }}</b>
                  @if ($h['to'] !== $h['address'])
                    <span class="mono soft">{{ $h['address'] }}</span>
                  @endif
                </span>
                <span class="soft">{{ $h['words'] }}</span>
              </li>
            @endforeach
          </ol>
        @endif
      </section>
      <details class="panel">
        <summary class="bar-line"><b>What clients are given</b> <span class="soft">resolvers in order, search suffixes, and which site or scope
            hands them out</span></summary>
        <x-table label="What clients are given">
          <thead>
            <tr>
              <th>At</th>
              <th>Resolvers</th>
              <th>Search suffixes</th>
              <th>From</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($given as $g)
              <tr>
                <td class="name"><a href="{{ $g['link'] }}">{{ $g['label'] }}</a></td>
                <td class="mono wrap">
                  @forelse($g['resolvers'] as $r)
                    {{ $servers->first(fn($x) => (string) $x->address === $r)?->name ?? $r }}{{ $loop->last ? '' : ' → ' }}@empty
                    <span class="open">none</span>
                  @endforelse
                </td>
                <td class="mono wrap">{{ implode(', ', $g['search']) }}@if ($g['search'] === [])
                    <span class="open">none: short names do not resolve</span>
                  @endif
                </td>
                <td>{{ $g['origin'] }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </details>
    </div>
    <aside class="side">
      @if ($may)
        <section class="panel">
          <header>
            <h2>Change those picked</h2>
          </header>
          <div class="pad">
            <x-act id="resolving" action="change-resolving">
              <x-field form="resolving" name="recursion" label="Recursion" :options="['on' => 'on', 'off' => 'off: own zones only']" blank="as it is" />
              <x-field form="resolving" name="forwarders" label="Forwarders, in order" mono placeholder="as they are; none takes them away" />
              <x-field
                form="resolving"
                name="fallback"
                label="When no forwarder answers"
                :options="['stop' => 'give up', 'roots' => 'ask the roots']"
                blank="as it is"
              />
              <details class="more">
                <summary>Stubs, forwarded zones, root hints</summary>
                <div class="form">
                  <x-field form="resolving" name="zones" label="Zones of their own" mono rows="3"
                    placeholder="partner.example forwarded 198.51.100.9&#10;as they are; none takes them away" />
                  <x-field form="resolving" name="also" label="Further addresses of the server" mono
                    placeholder="as they are; none takes them away" />
                  <x-field form="resolving" name="hints" label="Hint file" mono rows="5" placeholder="as they are" />
                  <x-check form="resolving" name="emptyHints" label="empty the list, on purpose" />
                </div>
              </details>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="resolving" />
      @endif
    </aside>
  </div>
</x-layout>
