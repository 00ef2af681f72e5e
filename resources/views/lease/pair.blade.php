@php
  $off = $pair->off_at
      ? '; ' .
          ($pair->off_id === $pair->first_id ? $pair->first->name : $pair->second->name) .
          ' was last said to be off ' .
          $pair->off_at->diffForHumans(['short' => true])
      : '';
  $facts = [
      'State' => 'state',
      'What it does' => 'means',
      'Since' => 'since',
      'Hears its partner' => 'hears',
      'Takes over all addresses' => 'takes',
      'Leases it knows of' => 'leases',
      'Of them not known to the partner' => 'unknown',
      'Key in use' => 'key',
      'Shipped' => 'shipped',
      'Asked' => 'read',
  ];
@endphp
<x-layout :title="$pair->name" verb="lease" edit="pairform">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('lease.pairs') }}">Pairs</a></li>
      <li aria-current="page">{{ $pair->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $pair->name }}</h1>
    <span class="soft">{{ $pair->first->name }} and {{ $pair->second->name }}, {{ $pair->mode->title() }}; leases run ahead by
      {{ $pair->leadWords() }} at most{{ $off }}</span>
    <span class="end row">
      <a class="btn small" href="{{ at('watch') }}?object={{ $pair->id }}">History</a>
      @if ($may)
        <form method="post" action="{{ at('lease.pair.ask', $pair->id) }}">
          @csrf
          <button class="btn small">Ask both now</button>
        </form>
      @endif
    </span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Whose is what</h2>
          <span class="soft">while they hear each other</span>
        </header>
        <div class="pad">{{ \App\View\PairStrip::of($pair) }}</div>
        <x-table label="Both servers">
          <thead>
            <tr>
              <th></th>
              @foreach ($pair->servers() as $side => $server)
                <th><a href="{{ at('ship.server', $server->id) }}">{{ $server->name }}</a> <span class="soft">{{ $side }}</span></th>
              @endforeach
            </tr>
          </thead>
          <tbody>
            @foreach ($facts as $label => $fact)
              <tr>
                <th scope="row" class="wrap">{{ $label }}</th>
                @foreach ($pair->servers() as $side => $server)
                  @php
                    $s = $seen[$server->id] ?? null;
                    // What a server that does not answer was like is no word on what it is now.
                    $known = $s !== null && $s['problem'] === null;
                    $told = $known ? $s['told'] : [];
                  @endphp
                  <td class="wrap">
                    @switch($fact)
                      @case('state')
                        @include('lease.parts.pair-state', ['s' => $s])
                      @break

                      @case('means')
                        {{ $known && $s['state'] ? $s['state']->means() : 'not known' }}
                      @break

                      @case('since')
                        {{ $s['since'] ?? null ? $s['since']->format('j M H:i:s') . ' UTC, ' . $s['since']->diffForHumans(['short' => true]) : '' }}
                      @break

                      @case('hears')
                        @if ($told['refusal'] ?? '')
                          @mark('warn') {{ $told['refusal'] }}
                        @elseif ($told !== [])
                          {{ $told['connected'] ?? false ? 'yes, it is in' : 'no, it was last in' }}
                          <span class="mono">{{ $told['partner'] ?? 'no state' }}</span>
                        @endif
                      @break

                      @case('takes')
                        @if (is_int($told['takes_over'] ?? null))
                          @php
                            $over = \Carbon\CarbonImmutable::createFromTimestamp($told['takes_over']);
                          @endphp
                          {{ ($over->isPast() ? 'it did, ' : '') . $over->diffForHumans(['short' => true]) }}
                        @elseif ($told !== [])
                          <span class="open">only when it is told that its partner is off</span>
                        @endif
                      @break

                      @case('leases')
                        {{ is_int($told['leases'] ?? null) ? number_format($told['leases']) : '' }}
                      @break

                      @case('unknown')
                        {{ is_int($told['unknown'] ?? null) ? number_format($told['unknown']) : '' }}
                      @break

                      @case('key')
                        <span class="mono">{{ $told['key'] ?? '' }}</span>
                      @break

                      @case('shipped')
                        {{ $waits[$side] ? 'not as it is meant now: ship it' : ($s['proved'] ?? false ? 'as meant, proved' : 'as meant') }}
                      @break

                      @case('read')
                        {{ $s['read'] ?? null ? $s['read']->diffForHumans(['short' => true]) : 'never' }}
                        @if ($s['problem'] ?? null)
                          <br><span class="hint bad">{{ $s['problem'] }}</span>
                        @endif
                      @break
                    @endswitch
                  </td>
                @endforeach
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
      <section class="panel">
        <header>
          <h2>Scopes</h2>
          <span class="soft">{{ number_format($pair->scopes_count) }}</span>
          @if ($may)
            <span class="end row" data-needs-pick hidden>
              <form id="leavepair" method="post" action="{{ at('act', 'pair-scopes') }}" hx-post="{{ at('act', 'pair-scopes') }}" hx-target="#follows-pairform">
                @csrf
                <input type="hidden" name="_form" value="leavepair">
                <button class="btn small" name="then" value="preview">Take <span data-picked>0</span> out of the pair</button>
              </form>
            </span>
          @endif
        </header>
        @if ($scopes->isEmpty())
          <x-empty title="No scope yet">Ship the pair to both servers, then bring scopes into it: one on its own page, many under
            <a href="{{ at('lease.coverage') }}">Coverage</a>.</x-empty>
        @else
          <x-table label="Scopes" data-worktable>
            <thead>
              <tr>
                @if ($may)
                  <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
                @endif
                <th>Scope</th>
                <th>Subnet</th>
                @foreach ($pair->servers() as $server)
                  <th>{{ $server->name }} gives new ones</th>
                @endforeach
              </tr>
            </thead>
            <tbody>
              @foreach ($scopes as $s)
                <tr>
                  @if ($may)
                    <td class="pickcell">
                      <input type="checkbox" class="pick" form="leavepair" name="scopes[]" value="{{ $s->id }}" aria-label="Pick {{ $s->name }}">
                    </td>
                  @endif
                  <td class="name"><a href="{{ at('lease.scope', $s->id) }}">{{ $s->name }}</a></td>
                  <td class="mono">{{ $s->prefix->prefix() }}</td>
                  @foreach ($pair->servers() as $server)
                    <td>
                      @if (($seen[$server->id]['problem'] ?? null) !== null)
                        <span class="open">not known</span>
                      @elseif (!($seen[$server->id]['state'] ?? null)?->givesNew())
                        <span class="open">not in its state</span>
                      @elseif (in_array($s->id, (array) ($seen[$server->id]['told']['ready'] ?? []), true))
                        @mark('ok') yes
                      @else
                        <span class="open">not before both have it</span>
                      @endif
                    </td>
                  @endforeach
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
    </div>
    <div class="side">
      @if ($may)
        @foreach ($pair->servers() as $server)
          @php
            $partner = $pair->partnerOf($server->id);
          @endphp
          @if (in_array($seen[$server->id]['state']?->value ?? '', ['COMMUNICATIONS-INTERRUPTED', 'RESOLUTION-INTERRUPTED'], true))
            <section class="panel">
              <header>
                <h2>{{ $partner->name }} is off</h2>
              </header>
              <form class="form pad" method="post" action="{{ at('lease.pair.down', $pair->id, $server->id) }}">
                @csrf
                <p>{{ $server->name }} renews every lease by itself and goes on with its own addresses. Told that {{ $partner->name }} is off,
                  it takes over the others {{ $pair->leadWords() }} later.</p>
                <p>@mark('warn') If {{ $partner->name }} still works and only the line between them is cut, two clients may get the same address.</p>
                <div class="field"><span><label for="why-{{ $server->id }}">Reason</label></span>
                  <input id="why-{{ $server->id }}" type="text" name="reason" maxlength="200" value="{{ old('reason') }}" required>
                </div>
                <label class="tick"><input type="checkbox" name="sure" value="1">{{ $partner->name }} is off, and stays off until it can
                  speak to {{ $server->name }}</label>
                <p class="row end"><button class="btn stop small">Tell {{ $server->name }}</button></p>
              </form>
            </section>
          @endif
        @endforeach
        <details class="panel" open>
          <summary class="bar-line"><b>Change the pair</b></summary>
          <div class="pad">
            <x-act id="pairform" action="change-pair" :seen="['pair:' . $pair->id => $pair->version]">
              <input type="hidden" name="pair" value="{{ $pair->id }}">
              <x-field form="pairform" name="name" label="Name" :value="$pair->name" />
              <x-field form="pairform" name="mode" label="How they share the work" :options="$modes" :value="$pair->mode->value" />
              <div class="pair">
                <x-field form="pairform" name="percent" label="Per cent" type="number" min="1" max="99" :value="$pair->percent" />
                <x-field form="pairform" name="lead" label="Leases run ahead by" :value="\HarborPost\Core\Dns\Ttl::of($pair->lead)->short()" />
              </div>
              <x-field form="pairform" name="description" label="Description" :value="$pair->description" />
              <x-check form="pairform" name="newKey" label="draw a new key; the one of {{ $pair->keyMade()?->format('j M Y') }} holds on" />
              @if (count($pair->keys) > 1)
                <x-check form="pairform" name="forget" label="forget the old key" />
              @endif
            </x-act>
            <x-cut id="cutpair" action="remove-pair" :input="['pair' => $pair->id]" target="#follows-pairform" label="Remove the pair"
              class="row end" />
          </div>
        </details>
        <x-follows-slot form="pairform" />
      @endif
    </div>
  </div>
</x-layout>
