<x-layout title="Servers at work" verb="watch" :work="$may ? 'threshold' : null" does="set a threshold">
  @php
    $read = count(array_filter($coverage, fn($c) => $c['state'] === 'read'));
    $figure = fn($server, $name) => $overview[$server->id][$name] ?? null;
    $marks = ['read' => 'ok', 'off' => 'warn', 'none' => 'warn', 'new' => 'warn', 'late' => 'warn', 'problem' => 'stop'];
  @endphp
  <header class="title">
    <h1>Servers at work</h1>
    <span class="soft">{{ $read }} of {{ count($coverage) }} measured now; the lines are the last three hours</span>
    <span class="end row">
      @include('watch.tabs', ['here' => at('watch.servers')])
    </span>
  </header>
  <div class="split @if ($itself !== []) two @endif">
    <section class="panel">
      @if ($coverage === [])
        <x-empty title="No server">Write servers down under Ship; each that has an address of its figures is read every minute.</x-empty>
      @else
        <x-table label="Servers at work" data-worktable>
          <thead>
            <tr>
              @if ($may)
                <th><span class="sr">Pick</span></th>
              @endif
              <th>Server</th>
              <th class="num">Asked or told, a second</th>
              <th class="num">Answered in</th>
              <th class="num">Failures, a second</th>
              <th class="num">Leases</th>
              <th>Measured</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($coverage as $c)
              @php
                $asked = $figure($c['server'], 'dns_queries') ?? $figure($c['server'], 'dhcp_messages');
                $seconds = $figure($c['server'], 'dns_answer_seconds');
                $failures = $figure($c['server'], 'dns_failures');
                $leases = $figure($c['server'], 'dhcp_leases');
              @endphp
              <tr>
                @if ($may)
                  <td><input type="checkbox" form="measure" name="servers[]" value="{{ $c['server']->id }}" aria-label="Pick {{ $c['server']->name }}"></td>
                @endif
                <td class="name">
                  <a href="{{ at('watch.server', $c['server']->id) }}">{{ $c['server']->name }}</a>
                  <br><span class="hint">{{ $c['server']->kind->value }}{{ $c['server']->site ? ', ' . $c['server']->site->name : '' }}</span>
                </td>
                @foreach ([[$asked, ''], [$seconds, 'seconds'], [$failures, ''], [$leases, '']] as [$f, $unit])
                  <td class="num" data-sort="{{ $f['now'] ?? '' }}">
                    @if ($f !== null)
                      {{ \App\View\Sparkline::of($f['line'], 56) }}
                      @if ($f['now'] === null)
                        <span class="open">not now</span>
                      @else
                        {{ \App\View\Chart::figure($f['now'], $unit) }}
                      @endif
                    @endif
                  </td>
                @endforeach
                <td class="wrap">@mark($marks[$c['state']]) {{ $c['says'] }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
        <p class="hint pad">A cell without a figure: the server does not tell it, or nothing was asked since it is measured.
          <i>Not now</i>: it was told within three hours, and not in the last minutes.</p>
      @endif
    </section>
    @if ($itself !== [])
      <div class="side">
        <section class="panel">
          <header>
            <h2>Harbor Post itself</h2>
          </header>
          <ul class="plain-list pad">
            @foreach ($itself as $part => $check)
              <li>@mark($check['ok'] ? 'ok' : ($check['must'] ? 'stop' : 'warn')) <b>{{ ucfirst($part) }}</b>
                <span class="hint">{{ $check['says'] }}</span>
              </li>
            @endforeach
          </ul>
        </section>
        @if (count($machines) > 1)
          <section class="panel">
            <header>
              <h2>Machines</h2>
              <span class="count">{{ count($machines) }}</span>
            </header>
            <ul class="plain-list pad">
              @foreach ($machines as $machine)
                <li>@mark($machine['silent'] === null ? 'ok' : 'warn') <b class="mono">{{ $machine['name'] }}</b>
                  <span class="hint">{{ $machine['silent'] === null ? 'since ' . \App\View\Words::moment($machine['since'])
                      : 'not heard of for a minute or more' }}{{
                      $machine['does'] === [] ? '; ready to take over' : '; does ' . implode(', ', $machine['does']) }}</span>
                </li>
              @endforeach
            </ul>
          </section>
        @endif
        @if ($may)
          <section class="panel">
            <header>
              <h2>Measure those picked</h2>
            </header>
            <div class="pad">
              <x-act id="measure" action="measure-servers">
                <x-field form="measure" name="measured" label="They are" :options="['yes' => 'measured', 'no' => 'left out']" />
                <x-field form="measure" name="why" label="Left out because" />
              </x-act>
            </div>
          </section>
          <x-follows-slot form="measure" />
          <section class="panel">
            <header>
              <h2>Tell when</h2>
            </header>
            <div class="pad">
              <x-act id="threshold" action="keep-threshold">
                <x-field form="threshold" name="family" label="Figure" mono list="families" />
                <datalist id="families">
                  @foreach ($families as $f)
                    <option value="{{ $f }}"></option>
                  @endforeach
                </datalist>
                <x-field form="threshold" name="labels" label="Labels, blank for any" mono placeholder="code=ServFail" />
                <div class="pair">
                  <x-field form="threshold" name="is" label="is" :options="['above' => 'above', 'below' => 'below']" />
                  <x-field form="threshold" name="value" label="this" mono />
                </div>
                <x-field form="threshold" name="minutes" label="for so many minutes" type="number" min="1" max="1440" value="10" />
              </x-act>
            </div>
            @if ($thresholds->isNotEmpty())
              <x-table label="Thresholds">
                <tbody>
                  @foreach ($thresholds as $t)
                    <tr>
                      <td class="wrap">{{ $t->line() }}</td>
                      <td>
                        <form method="post" action="{{ at('act', 'remove-threshold') }}">
                          @csrf
                          <input type="hidden" name="then" value="commit">
                          <input type="hidden" name="threshold" value="{{ $t->id }}">
                          <button class="btn stop small">Remove<span class="sr"> {{ $t->line() }}</span></button>
                        </form>
                      </td>
                    </tr>
                  @endforeach
                </tbody>
              </x-table>
            @endif
          </section>
          <x-follows-slot form="threshold" />
        @endif
      </div>
    @endif
  </div>
</x-layout>
