<x-layout title="Hooks" verb="ship" work="hook" does="make a hook">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('ship') }}">Ship</a></li>
      <li aria-current="page">Hooks</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Hooks</h1>
    <span class="soft">systems outside that are told what happened: in order, at least once, signed</span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        @if ($hooks->isEmpty())
          <x-empty title="Nobody outside is told">A hook is an address that is called with each change: what was done, by whom, which rows.</x-empty>
        @else
          <x-table label="Hooks" data-worktable>
            <thead>
              <tr>
                <th>Hook</th>
                <th>Told of</th>
                <th>How far</th>
                <th><span class="sr">Acts</span></th>
              </tr>
            </thead>
            <tbody>
              @foreach ($hooks as $h)
                @php
                  $s = $states[$h->id] ?? null;
                @endphp
                <tr>
                  <td class="wrap"><b>{{ $h->name }}</b><br><span class="mono hint">{{ $h->address }}</span></td>
                  <td class="wrap">{{ $h->kinds === null ? 'everything' : implode(', ', $h->kinds) }}{{ $h->site ? ' at ' . $h->site->name : '' }}</td>
                  <td class="wrap">
                    @if ($s?->parked_at)
                      @mark('stop') parked after {{ $s->tries }} tries
                    @elseif ($s && $s->tries > 0)
                      @mark('warn') {{ $s->tries }} {{ Str::plural('try', (int) $s->tries) }} failed, next
                      {{ Carbon\CarbonImmutable::parse($s->next_at)->diffForHumans() }}
                    @else
                      @mark('ok') nothing is left over
                    @endif
                  </td>
                  <td>
                    <span class="row">
                      <form method="post" action="{{ at('ship.hook.test', $h->id) }}">
                        @csrf
                        <button class="btn small">Test call</button>
                      </form>
                      @if ($s && $s->tries > 0)
                        <form method="post" action="{{ at('ship.hook.again', $h->id) }}">
                          @csrf
                          <button class="btn small">Try again</button>
                        </form>
                      @endif
                      <x-cut :id="'cuthook' . $loop->index" action="remove-hook" :input="['hook' => $h->id]" target="#follows-hook"
                        label="Remove" />
                    </span>
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
      @if ($log->isNotEmpty())
        <section class="panel">
          <header>
            <h2>Last calls</h2>
          </header>
          <x-table label="Last calls" data-worktable>
            <thead>
              <tr>
                <th>When</th>
                <th>Hook</th>
                <th class="num">Event</th>
                <th class="num">Answer</th>
                <th class="num">ms</th>
                <th>It says</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($log as $d)
                <tr>
                  <td title="{{ $d->at }}">{{ Carbon\CarbonImmutable::parse($d->at)->diffForHumans() }}</td>
                  <td>{{ $hooks->firstWhere('id', $d->hook_id)?->name }}</td>
                  <td class="num">{{ $d->event_id ?? 'test' }}</td>
                  <td class="num">{{ $d->status ?? 'none' }}</td>
                  <td class="num">{{ number_format($d->milliseconds) }}</td>
                  <td class="wrap">{{ $d->says }}</td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        </section>
      @endif
    </div>
    <div class="side">
      <section class="panel">
        <header>
          <h2>Make a hook</h2>
        </header>
        <div class="pad">
          <x-act id="hook" action="make-hook">
            <x-field form="hook" name="name" label="Name" />
            <x-field form="hook" name="address" label="Address" mono placeholder="https://events.kittiwake.example/harbor" />
            <x-field form="hook" name="site" label="At this site only, with all inside" pick="site" />
            <x-field form="hook" name="kinds[]" label="Of these kinds only" :options="array_combine($kinds, $kinds)" :value="[]" multiple />
            <x-check form="hook" name="inner" label="it may lead into networks of your own" />
            <p class="hint">Event-Signature is sha256= and the HMAC of Event-Id, Event-Time and the body, joined by dots; the secret is shown
              once.</p>
          </x-act>
        </div>
      </section>
      <x-follows-slot form="hook" />
    </div>
  </div>
</x-layout>
