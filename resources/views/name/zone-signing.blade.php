@php
  $spoken = fn($s) => \HarborPost\Core\Dns\Ttl::of($s)->spoken();
  $at = fn($t) => $t === null ? '' : gmdate('j M Y, H:i', $t);
  $policy = $zone->policy;
  $first = $signed->first();
  $ours = $signed->parent();
  $entry = $signed->entry();
@endphp
<x-layout :title="$zone->title() . ', signing'" verb="name" :work="$policy ? null : 'sign'" does="the signing form">
  <nav aria-label="Above this zone">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li><a href="{{ at('name.zone', $zone->id) }}">{{ $zone->title() }}</a></li>
      <li aria-current="page">Signing</li>
    </ol>
  </nav>
  <header class="title">
    <h1 class="mono">{{ $zone->title() }}</h1>
    <span class="soft">
      @if ($policy === null)
        {{ $zone->view->name }}, not signed
      @elseif ($zone->signed_since === null)
        by <b>{{ $policy->name }}</b>; not every server has the signatures yet
      @else
        signed by <b>{{ $policy->name }}</b>, {{ $policy->denial->hashes() ? 'NSEC3 without salt' : 'NSEC' }};
        {{ number_format($census['signatures']) }} signatures, the first ends
        {{ \Carbon\CarbonImmutable::createFromTimestamp($census['first'])->diffForHumans() }}
      @endif
    </span>
    <span class="end soft">
      @if ($first && !$zone->unsign_asked)
        next: <b>{{ $first[0] }}</b>, {{ $first[2] }}
      @endif
      <a class="btn small" href="{{ at('name.signing') }}">All signed zones</a>
    </span>
  </header>
  @foreach ($unlike as $other)
    <div class="notice" role="status">
      @mark('warn')
      <span class="grow">
        <b>{{ $policy ? 'Signed here, and not' : 'Not signed here, but' }} in the view {{ $other->view->name }}.</b>
        Who is answered by the unsigned one and finds a DS of this name at its parent believes nothing of it.
        <span class="rfc">RFC 4035 §5.2</span>
      </span>
      <a class="btn small" href="{{ at('name.zone.signing', $other->id) }}">Show that one</a>
    </div>
  @endforeach
  @if ($policy === null)
    <div class="split two">
      <section class="panel">
        <header>
          <h2>Not signed</h2>
        </header>
        <div class="pad">
          <p>A resolver cannot tell a true answer of this zone from a forged one. Signing takes two acts: sign it here, and ship it. What comes
            after that is done when its time has come:</p>
          <ol class="lines">
            <li>With the shipment, keys, signatures and denial go to every server of the zone.</li>
            <li>When no cache holds the unsigned zone any more, {{ $ours ? "its DS goes into {$ours->title()}" : 'its DS can be given to the parent' }}.</li>
            <li>From then on, whoever validates notices every forged answer. Signatures are made anew before they end.</li>
          </ol>
          <h3>Its servers</h3>
          <ul class="lines">
            @forelse ($signed->servers() as $s)
              <li>@mark($s['done'] ? 'ok' : 'wait') <b>{{ $s['server'] }}</b>, {{ $s['part'] }}: {{ $s['words'] }}</li>
            @empty
              <li>@mark('stop') no server has the zone</li>
            @endforelse
          </ul>
        </div>
      </section>
      @if ($may)
        <aside class="side">
          <section class="panel">
            <header>
              <h2>Sign this zone</h2>
            </header>
            <div class="pad">
              @if ($policies === [])
                <p>There is no policy yet. <a href="{{ at('name.signing') }}#keep-policy">Make one first</a>: what its form proposes is sound.</p>
              @else
                <x-act id="sign" action="sign-zone" :seen="['zone:' . $zone->id => $zone->version]">
                  <input type="hidden" name="zone" value="{{ $zone->id }}">
                  <x-field form="sign" name="policy" label="Policy" :options="$policies" />
                </x-act>
              @endif
            </div>
          </section>
          <x-follows-slot form="sign" />
        </aside>
      @endif
    </div>
  @else
    @if ($zone->unsign_asked)
      <div class="notice bad" role="status">
        @mark('wait')
        <span class="grow"><b>On its way out of signing.</b>
          @if ($zone->unsign_seen === null)
            The parent still has to name no key{{ $ours ? ': its servers are asked every ten minutes' : '' }}.
          @else
            No server of the parent names a key since {{ $at($zone->unsign_seen) }}; keys and signatures go
            {{ $at($signed->schedule->dsGone($zone->unsign_seen)) }} UTC.
          @endif
        </span>
        @if ($may && !$ours && $zone->unsign_seen === null)
          <form method="post" action="{{ at('act', 'tell-parent') }}">@csrf
            <input type="hidden" name="zone" value="{{ $zone->id }}">
            <input type="hidden" name="what" value="gone">
            <button class="btn small" name="then" value="preview">The DS is gone</button>
          </form>
        @endif
      </div>
    @endif
    @if ($earlier = $signed->earlierTtls())
      <div class="notice" role="status">
        @mark('wait')
        <span class="grow">
          <b>Caches may still count down an earlier TTL.</b>
          Steps of the keys wait for the longer one.
          @foreach ($earlier as $line)
            {{ $line }}.
          @endforeach
          <span class="rfc">RFC 7583 §3.1</span>
        </span>
      </div>
    @endif
    <section class="panel chart">
      <header>
        <h2>Keys over time</h2>
        <span class="end row">
          <span class="key"><svg class="sw" aria-hidden="true">
              <rect class="outline" />
            </svg>in the zone</span>
          <span class="key"><svg class="sw" aria-hidden="true">
              <rect width="100%" height="100%" class="water" />
              <rect class="outline" />
            </svg>in use</span>
          <span class="key"><svg class="sw planned" aria-hidden="true">
              <rect class="outline" />
            </svg>foreseen</span>
        </span>
      </header>
      <div class="pad">{{ \App\View\KeyLine::of($signed) }}</div>
    </section>
    <div class="split two">
      <div class="stack">
        <section class="panel">
          <header>
            <h2>Keys</h2>
          </header>
          <x-table label="Keys">
            <thead>
              <tr>
                <th>Key</th>
                <th>Part</th>
                <th>Algorithm</th>
                <th>State</th>
                <th>Since</th>
                <th>Next</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              @foreach ($signed->keys as $k)
                @php
                  $state = $signed->state($k);
                @endphp
                <tr @class(['open' => $k->removed !== null])>
                  <td class="name mono">{{ $k->tag }}</td>
                  <td>{{ str_replace(' key', '', str_replace('-', ' ', $k->role->words())) }}</td>
                  <td class="mono" title="{{ $k->algorithm->mnemonic() }}">{{ $k->algorithm->value }}</td>
                  <td>
                    @if ($k->published === null && !$k->beside)
                      @mark('wait') made, not shipped
                    @else
                      @mark(['active' => 'ok', 'ready' => 'ok', 'ahead' => 'ok', 'removed' => 'cut'][$state->value] ?? 'wait')
                      <b>{{ $state->value }}</b><br><span class="hint">{{ $state->words() }}</span>
                    @endif
                  </td>
                  <td>{{ $k->published ? gmdate('j M Y', $k->published) : '' }}</td>
                  <td class="wrap">{{ $signed->next($k) }}</td>
                  <td>
                    @if ($may && $signed->mayRoll($k))
                      <form method="post" action="{{ at('act', 'roll-key') }}">@csrf
                        <input type="hidden" name="key" value="{{ $k->id }}">
                        <button class="btn small" name="then" value="preview" aria-label="Replace {{ $k->tag }}">Replace</button>
                      </form>
                    @endif
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        </section>
        <section class="panel">
          <header>
            <h2>Chain of trust</h2>
            <span class="soft">walked by packets, from the anchors of the server that is asked</span>
          </header>
          <form class="bar-line" hx-get="{{ at('name.zone.signing.chain', $zone->id) }}" hx-target="#chain"
            action="{{ at('name.zone.signing.chain', $zone->id) }}">
            <div class="field"><span><label for="chain-name">Name</label></span><input id="chain-name" name="name" class="mono" size="30"
                value="{{ $name }}"></div>
            <div class="field"><span><label for="chain-type">Type</label></span>
              <select id="chain-type" name="type">
                @foreach (['SOA', 'A', 'AAAA', 'MX', 'TXT', 'NS', 'CNAME', 'SRV', 'DNSKEY', 'DS'] as $t)
                  <option>{{ $t }}</option>
                @endforeach
              </select>
            </div>
            <div class="field"><span><label for="chain-server">Asked at</label></span>
              <select id="chain-server" name="server">
                @foreach ($resolvers as $r)
                  <option value="{{ $r->id }}" @selected(($r->resolving['anchors'] ?? []) !== [])>{{ $r->name }}</option>
                @endforeach
              </select>
            </div>
            <button class="btn" data-key="main">Walk it</button>
          </form>
          <div id="chain" aria-live="polite"></div>
        </section>
      </div>
      <aside class="side">
        <section class="panel">
          <header>
            <h2>The parent</h2>
            <span class="soft">{{ $ours ? $ours->title() : 'not ours' }}</span>
          </header>
          <div class="pad">
            @if ($entry)
              <p class="hint">DS of key {{ $entry->tag }}</p>
              <p><code class="mono breaks">{{ $zone->title() }}. DS {{ $entry->ds()->text() }}</code></p>
              <ul class="lines">
                <li>@mark($entry->ds_asked ? 'ok' : 'wait') {{ $entry->ds_asked ? 'given ' . $at($entry->ds_asked) . ' UTC' : 'not given yet' }}</li>
                <li>@mark($entry->ds_seen ? 'ok' : 'wait')
                  @if ($entry->ds_seen)
                    named by every server of the parent since {{ $at($entry->ds_seen) }} UTC
                  @else
                    not named by every server of the parent
                  @endif
                </li>
              </ul>
              @if ($may && !$zone->unsign_asked)
                <div class="row">
                  @foreach ($signed->told() as $what => $text)
                    <form method="post" action="{{ at('act', 'tell-parent') }}">@csrf
                      <input type="hidden" name="zone" value="{{ $zone->id }}">
                      <input type="hidden" name="what" value="{{ $what }}">
                      <button class="btn small" name="then" value="preview">{{ $text }}</button>
                    </form>
                  @endforeach
                </div>
              @endif
            @endif
            @if ($ours)
              <div hx-get="{{ at('name.zone.signing.parent', $zone->id) }}" hx-trigger="load" hx-target="this"><p class="hint">Asking its servers …</p></div>
            @endif
          </div>
        </section>
        <section class="panel">
          <header>
            <h2>Census</h2>
          </header>
          <dl class="facts pad">
            <dt>Record sets</dt>
            <dd>{{ number_format($census['sets']) }}</dd>
            <dt>Signatures</dt>
            <dd>{{ number_format($census['signatures']) }}</dd>
            <dt>Denial</dt>
            <dd>{{ number_format($census['denials']) }} {{ $policy->denial->hashes() ? 'NSEC3' : 'NSEC' }} for {{ number_format($census['owners']) }} names</dd>
            <dt>First signature ends</dt>
            <dd>{{ $census['first'] ? $at($census['first']) . ' UTC' : 'none made yet' }}</dd>
            <dt>Made anew</dt>
            <dd>{{ $spoken($policy->refresh) }} before the end</dd>
            <dt>Odd ones</dt>
            <dd>{{ $census['odd'] === [] ? 'none' : implode('; ', $census['odd']) }}</dd>
          </dl>
        </section>
        <section class="panel">
          <header>
            <h2>Its servers</h2>
          </header>
          <ul class="lines pad">
            @foreach ($signed->servers() as $s)
              <li>@mark($s['done'] ? 'ok' : 'wait') <b>{{ $s['server'] }}</b>, {{ $s['part'] }}: {{ $s['words'] }}</li>
            @endforeach
          </ul>
        </section>
        @if ($may)
          <section class="panel">
            <header>
              <h2>Hand out the anchor</h2>
            </header>
            <div class="pad">
              <x-act id="anchor" action="hand-anchor" :live="false">
                <input type="hidden" name="zone" value="{{ $zone->id }}">
                <x-field form="anchor" name="servers[]" label="Resolvers" multiple :options="$resolvers->pluck('name', 'id')->all()" />
                <input type="hidden" name="then" value="preview">
                <div class="row">
                  <button class="btn small" name="away" value="0">Hand it out</button>
                  <button class="btn stop small" name="away" value="1">Remove the anchor</button>
                </div>
              </x-act>
            </div>
          </section>
          @if ($signed->mayChangeAlgorithm())
            <details class="panel">
              <summary class="bar-line"><b>Change the algorithm</b> <span class="soft">now {{ $policy->algorithm->mnemonic() }}</span></summary>
              <div class="pad">
                @if ($others === [])
                  <p>No policy has another algorithm. <a href="{{ at('name.signing') }}#keep-policy">Make one first</a>.</p>
                @else
                  <x-act id="algorithm" action="roll-algorithm" :seen="['zone:' . $zone->id => $zone->version]">
                    <input type="hidden" name="zone" value="{{ $zone->id }}">
                    <x-field form="algorithm" name="policy" label="Policy of another algorithm" :options="$others" />
                  </x-act>
                @endif
              </div>
            </details>
            <x-follows-slot form="algorithm" />
          @endif
          @unless ($zone->unsign_asked)
            <form method="post" action="{{ at('act', 'unsign-zone') }}">@csrf
              <input type="hidden" name="zone" value="{{ $zone->id }}">
              <button class="btn stop" name="then" value="preview">Stop signing</button>
            </form>
          @endunless
        @endif
      </aside>
    </div>
  @endif
</x-layout>
