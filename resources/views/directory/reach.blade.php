<x-layout title="Who may reach what" verb="directory" :work="$may ? 'intent' : null" does="say who may reach what">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('directory.list', 'vlans') }}">VLANs</a></li>
      <li aria-current="page">Who may reach what</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Who may reach what</h1>
    <span class="soft">{{ $count === 1 ? '1 rule' : "$count rules" }} of {{ $domain->name ?? 'no domain' }}; what no rule speaks of is open</span>
    @include('directory.domain-choice', ['page' => at('directory.reach')])
  </header>
  <div class="split @if ($may) two @endif">
    <div class="stack">
      <section class="panel">
        @if ($vlans->isEmpty())
          <x-empty title="No VLAN">Add VLANs to the domain first; then say what clients of each may reach.</x-empty>
        @else
          <x-table label="From each VLAN to each" class="cross">
            <thead>
              <tr>
                <th>Clients of ↓ reach →</th>
                @foreach ($vlans as $v)
                  <th scope="col"><abbr title="{{ $v->line() }}">{{ $v->number }}</abbr></th>
                @endforeach
              </tr>
            </thead>
            <tbody>
              @foreach ($vlans as $one)
                <tr>
                  <th scope="row"><a href="{{ at('directory.vlan', $one->id) }}">{{ $one->line() }}</a></th>
                  @foreach ($vlans as $v)
                    @php
                      $cell = $cells[$one->id][$v->id] ?? null;
                      $rule = $cell['rule'] ?? null;
                      $asked = ['domain' => $domain->id, 'from' => $one->id, 'to' => $v->id, 'rule' => $rule?->id];
                      $words = match (true) {
                          $rule !== null => $rule->line(),
                          $cell === null => $one->line() . ' reaches ' . $v->line() . ', nothing said',
                          default => $one->line() . ' to ' . $v->line() . ': ' . $cell['state'] . ' by a rule to a prefix',
                      };
                    @endphp
                    <td @class(['cell-' . ($cell['state'] ?? 'open') => $cell !== null, 'said' => $cell['said'] ?? false])>
                      @if ($one->id === $v->id)
                        <span class="open" aria-hidden="true">–</span>
                      @else
                        <a href="{{ at('directory.reach') }}?{{ http_build_query($asked) }}#intent" title="{{ $words }}" aria-label="{{ $words }}">
                          {{ $cell['state'] ?? '·' }}
                        </a>
                      @endif
                    </td>
                  @endforeach
                </tr>
              @endforeach
            </tbody>
          </x-table>
          <p class="hint pad">· nothing said, so it is open; <b>bold</b>: a rule names the two, otherwise it follows from a rule to a prefix;
            <b>part</b>: of some subnets or addresses; <b>times</b>: in a time of the week. What clients need stays open in filters.
            {{ $left > 0 ? "$left VLANs without a rule are left out." : '' }}</p>
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Rules to prefixes and elsewhere</h2>
        </header>
        @if ($beyond->isEmpty())
          <p class="pad soft">None.</p>
        @else
          <x-table label="Rules to prefixes and elsewhere" data-worktable>
            <thead>
              <tr>
                <th>Clients of</th>
                <th>may</th>
                <th>reach</th>
                <th>When</th>
                <th>Why</th>
                @if ($may)
                  <th><span class="sr">Acts</span></th>
                @endif
              </tr>
            </thead>
            <tbody>
              @foreach ($beyond as $r)
                <tr>
                  <td class="name"><a href="{{ at('directory.vlan', $r->vlan_id) }}">{{ $r->vlan->line() }}</a></td>
                  <td>@mark($r->allows ? 'ok' : 'stop') {{ $r->allows ? 'may' : 'may not' }}</td>
                  <td class="mono">{{ $r->to() }}</td>
                  <td class="wrap">{{ $r->window()?->words() ?? 'always' }}</td>
                  <td class="wrap soft">{{ $r->why }}</td>
                  @if ($may)
                    <td>
                      <x-cut
                        :id="'cut' . $r->id"
                        action="remove-intent"
                        :input="['intents[]' => $r->id]"
                        target="#follows-intent"
                        label="Take back"
                        :of="$r->line()"
                      />
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
        @if ($chosen)
          <section class="panel">
            <header>
              <h2>Said now</h2>
            </header>
            <p class="pad">{{ $chosen->line() }}{{ $chosen->why === '' ? '' : ": $chosen->why" }}</p>
            <x-cut
              id="cut"
              action="remove-intent"
              :input="['intents[]' => $chosen->id]"
              target="#follows-intent"
              label="Take it back"
              class="pad row"
            />
          </section>
        @endif
        <section class="panel">
          <header>
            <h2>Say who may reach what</h2>
          </header>
          <div class="pad">
            <x-act id="intent" action="keep-intent" :stay="at('directory.reach').'?domain=' . $domain?->id">
              <x-field form="intent" name="vlans[]" label="Clients of" multiple :options="$vlans->mapWithKeys(fn($v) => [$v->id => $v->line()])->all()"
                :value="$from ? [$from->id] : []" />
              <div class="pair">
                <x-field form="intent" name="allows" label="may they" :options="['no' => 'may not', 'yes' => 'may']"
                  :value="$chosen?->allows ? 'yes' : 'no'" />
                <x-field form="intent" name="to" label="reach this VLAN" pick="VLAN" blank="number or name" :value="$to->id ?? ''"
                  :shown="$to?->line() ?? ''" />
              </div>
              <x-field form="intent" name="prefix" label="or this prefix" mono placeholder="10.32.0.0/16" />
              <x-field form="intent" name="why" label="because" :value="$chosen->why ?? ''" />
              <details class="more" @if ($chosen?->days !== null) open @endif>
                <summary>Only in a time of the week</summary>
                <div class="form">
                  <x-field form="intent" name="days[]" label="Days" multiple data-across
                    :options="['1' => 'Mon', '2' => 'Tue', '3' => 'Wed', '4' => 'Thu', '5' => 'Fri', '6' => 'Sat', '7' => 'Sun']"
                    :value="explode(' ', (string) $chosen?->days)" />
                  <div class="pair">
                    <x-field form="intent" name="starts" label="From" mono :value="$chosen->starts ?? '07:00'" />
                    <x-field form="intent" name="minutes" label="Minutes" type="number" min="5" max="1440" :value="$chosen->minutes ?? 720" />
                  </div>
                  <x-field form="intent" name="zone" label="By the clock of" :options="$zones" :value="$chosen->zone ?? 'Europe/London'" />
                </div>
              </details>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="intent" />
      </div>
    @endif
  </div>
</x-layout>
