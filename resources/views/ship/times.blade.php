<x-layout title="Times" verb="ship" :work="$may ? 'window' : null" does="make a window">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('ship') }}">Ship</a></li>
      <li aria-current="page">Times</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Times</h1>
    <span class="soft">when servers are shipped to by themselves, and when nothing is shipped to them</span>
  </header>
  <div class="split @if ($may) two @endif">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Servers</h2>
          <span class="soft">the next seven days, in UTC</span>
        </header>
        @if ($servers->isEmpty())
          <x-empty title="No server is shipped to">A server with a control endpoint stands here with its windows.</x-empty>
        @else
          <x-table label="Servers" class="weeks">
            <thead>
              <tr>
                @if ($may)
                  <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
                @endif
                <th>Server</th>
                <th>Shipped to</th>
                <th class="across">{{ $week->head() }}</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($servers as $s)
                @php
                  $frozen = $times->frozen($s);
                  $open = $times->open($s);
                  $next = $times->next($s);
                @endphp
                <tr>
                  @if ($may)
                    <td class="pickcell"><input type="checkbox" class="pick" form="ships" name="servers[]" value="{{ $s->id }}"
                        aria-label="Pick {{ $s->name }}"></td>
                  @endif
                  <td class="name"><a href="{{ at('ship.server', $s->id) }}">{{ $s->name }}</a></td>
                  <td>
                    @if ($frozen)
                      <span class="stopped" title="{{ $frozen->why }}">@mark('stop') frozen until {{ $frozen->ends_at->format('j M H:i') }}</span>
                    @else
                      {{ $s->ships->words() }}
                    @endif
                    @if ($s->ships === App\Models\ShipsWhen::Windows)
                      <br><span class="hint">
                        @if ($open)
                          open until {{ Carbon\CarbonImmutable::instance($open->to)->utc()->format('H:i') }}
                        @elseif ($next)
                          next {{ Carbon\CarbonImmutable::instance($next->from)->utc()->format('D j M H:i') }}
                        @else
                          no window opens any more
                        @endif
                      </span>
                    @endif
                  </td>
                  <td class="across">{{ $week->of($s) }}</td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
          @if ($may)
            <x-act id="ships" action="set-shipping" class="row pad-all">
              <label for="ships-when">Ship to the picked</label>
              <select id="ships-when" name="when" class="grow">
                @foreach ($whens as $value => $words)
                  <option value="{{ $value }}">{{ $words }}</option>
                @endforeach
              </select>
            </x-act>
          @endif
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Windows</h2>
        </header>
        @if ($times->windows->isEmpty())
          <x-empty title="No window">A window says on which days, from when and for how long servers are shipped to by themselves.</x-empty>
        @else
          <x-table label="Windows" data-worktable>
            <thead>
              <tr>
                <th>Window</th>
                <th>When</th>
                <th>For</th>
                @if ($may)
                  <th><span class="sr">Acts</span></th>
                @endif
              </tr>
            </thead>
            <tbody>
              @foreach ($times->windows as $w)
                <tr>
                  <td class="name">{{ $w->name }}</td>
                  <td class="wrap">{{ $w->window()->words() }}</td>
                  <td>{{ $w->whose() }}</td>
                  @if ($may)
                    <td>
                      <x-cut :id="'cut' . $w->id" action="remove-window" :input="['window' => $w->id]" target="#follows-window"
                        label="Remove" :of="$w->name" />
                    </td>
                  @endif
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Freezes</h2>
        </header>
        @if ($times->freezes->isEmpty())
          <x-empty title="No freeze">In a freeze nothing is shipped, not by hand either: before a regatta, over the holidays. The plan may change
            all the same.</x-empty>
        @else
          <x-table label="Freezes" data-worktable>
            <thead>
              <tr>
                <th>Why</th>
                <th>From (UTC)</th>
                <th>Up to (UTC)</th>
                <th>For</th>
                @if ($may)
                  <th><span class="sr">Acts</span></th>
                @endif
              </tr>
            </thead>
            <tbody>
              @foreach ($times->freezes as $f)
                <tr>
                  <td class="name wrap">{{ $f->why }}</td>
                  <td class="mono">{{ $f->starts_at->format('Y-m-d H:i') }}</td>
                  <td class="mono">{{ $f->ends_at->format('Y-m-d H:i') }}</td>
                  <td>{{ $f->whose() }}</td>
                  @if ($may)
                    <td>
                      <x-cut :id="'cut' . $f->id" action="end-freeze" :input="['freeze' => $f->id]" target="#follows-window" label="End the freeze"
                        :of="$f->why" />
                    </td>
                  @endif
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
    </div>
    @if ($may)
      <div class="side">
        <x-follows-slot form="ships" />
        <section class="panel">
          <header>
            <h2>Make a window</h2>
          </header>
          <div class="pad">
            <x-act id="window" action="keep-window">
              <x-field form="window" name="name" label="Name" />
              <x-field form="window" name="days[]" label="Days" multiple data-across
                :options="['1' => 'Mon', '2' => 'Tue', '3' => 'Wed', '4' => 'Thu', '5' => 'Fri', '6' => 'Sat', '7' => 'Sun']" />
              <div class="pair">
                <x-field form="window" name="starts" label="Begins" value="22:00" mono />
                <x-field form="window" name="minutes" label="Minutes" type="number" min="5" max="1440" value="90" />
              </div>
              <x-field form="window" name="zone" label="By the clock of" :options="$zones" value="Europe/London" />
              <x-field form="window" name="server" label="Server" pick="server" blank="every server" />
              <x-field form="window" name="site" label="Or those at a site, with all inside" pick="site" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="window" />
        <section class="panel">
          <header>
            <h2>Freeze</h2>
          </header>
          <div class="pad">
            <x-act id="freeze" action="keep-freeze">
              <x-field form="freeze" name="why" label="Why" />
              <div class="pair">
                <x-field form="freeze" name="from" label="From" mono placeholder="2026-12-24 12:00" />
                <x-field form="freeze" name="to" label="Up to" mono placeholder="2026-12-27 06:00" />
              </div>
              <x-field form="freeze" name="zone" label="By the clock of" :options="$zones" value="Europe/London" />
              <x-field form="freeze" name="server" label="Server" pick="server" blank="every server" />
              <x-field form="freeze" name="site" label="Or those at a site, with all inside" pick="site" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="freeze" />
      </div>
    @endif
  </div>
</x-layout>
