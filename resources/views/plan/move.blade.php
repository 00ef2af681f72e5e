@php
  $conflicts = $plan?->conflicts() ?? [];
  $zoneless = $plan?->withoutZone() ?? 0;
  $single = array_filter($conflicts, fn($c) => !$c['zoneless']);
@endphp
<x-layout :title="'Move ' . ($prefix->name ?: $net)" verb="plan">
  @include('plan.above')
  <header class="title">
    <h1>Move {{ $prefix->name ?: 'subnet' }}</h1>
    <span class="mono">{{ $net }}@if ($to)
        → {{ $to }}
      @endif
    </span>
    @if ($plan)
      <span class="soft">{{ count($plan->rows) }} lines change, {{ count($plan->hosts) }} hosts move</span>
    @endif
  </header>
  <div class="split two">
    <div class="stack">
      <form class="panel bar-line" action="{{ at('plan.prefix.move', $prefix->id) }}">
        <div class="field"><span><label for="to">New prefix</label></span><input id="to" name="to" class="mono"
            value="{{ $text }}" placeholder="{{ $net }}" @if ($text !== '' && !$to) aria-invalid="true" @endif></div>
        @foreach ($proposals as $p)
          <a class="btn small mono" href="?to={{ urlencode((string) $p['net']) }}">{{ $p['net'] }}</a>
        @endforeach
        <button class="btn" data-key="main">Show old and new</button>
      </form>
      @if ($text !== '' && !$to)
        <div class="fault" role="alert">
          <h3>@mark('stop')"{{ $text }}" is no place to move to</h3>
          <p>A prefix of the same family that starts on its boundary and does not overlap {{ $net }}.</p>
        </div>
      @endif
      @if ($plan)
        @if ($single !== [])
          <div class="fault" role="alert">
            <h3>@mark('stop'){{ count($single) }} {{ count($single) === 1 ? 'line is' : 'lines are' }} in the way</h3>
            <p>They stand first in the table.</p>
          </div>
        @endif
        @if ($zoneless > 0)
          <div class="fault" role="alert">
            <h3>@mark('stop'){{ $zoneless }} {{ $zoneless === 1 ? 'PTR has' : 'PTRs have' }} no reverse zone in {{ $to }}</h3>
            <p>Make the zone, or leave them out beside.</p>
            @if ($mayPlan)
              <form method="get" action="{{ at('name.reverse') }}"><input type="hidden" name="nets" value="{{ $to }}">
                <input type="hidden" name="stay" value="{{ request()->getRequestUri() }}"><button class="btn">Make the reverse zone of
                  {{ $to }}</button>
              </form>
            @endif
          </div>
        @endif
        <section class="panel">
          <header>
            <h2>Old and new</h2>
            @if ($plan->leases() > 0)
              <span class="soft">{{ $plan->leases() }} leases of the old range run on until they end</span>
            @endif
          </header>
          @if ($plan->rows === [])
            <div class="empty">
              <h3>Nothing stands in it</h3>
              <p class="soft">Only the prefix itself gets another place.</p>
            </div>
          @else
            <x-table label="Old and new" data-worktable>
              <thead>
                <tr>
                  <th>What</th>
                  <th>Name</th>
                  <th>Old</th>
                  <th>New</th>
                  <th>In the way</th>
                </tr>
              </thead>
              <tbody>
                @foreach ([...$single, ...array_filter($plan->rows, fn($r) => $r['conflict'] === null || $r['zoneless'])] as $i => $r)
                  @break($i >= 1500)<tr>
                    <td>{{ $r['what'] }}</td>
                    <td class="mono name">{{ $r['label'] }}</td>
                    <td class="mono">{{ $r['old'] }}</td>
                    <td class="mono">{{ $r['new'] }}</td>
                    <td class="wrap">
                      @if ($r['zoneless'])
                        <span class="open">no zone</span>
                      @elseif($r['conflict'])
                        <span class="stopped">@mark('stop') {{ $r['conflict'] }}</span>
                      @endif
                    </td>
                  </tr>
                @endforeach
              </tbody>
            </x-table>
            @if (count($plan->rows) > 1500)
              <p class="bar-line hint">and {{ number_format(count($plan->rows) - 1500) }} more lines</p>
            @endif
          @endif
        </section>
      @endif
    </div>
    <aside class="side">
      @if ($plan && $mayPlan)
        <section class="panel">
          <header>
            <h2>Move it</h2>
          </header>
          <div class="pad">
            <x-act
              id="move"
              action="move-subnet"
              :seen="['prefix:' . $prefix->id => $prefix->version]"
            ><input type="hidden" name="prefix" value="{{ $prefix->id }}">
              <input type="hidden" name="to" value="{{ $to }}">
              <p class="hint">One transaction: hosts, names both ways, reservations, gateway, scope. Moving back is the same with
                {{ $net }}.</p>
              @if ($zoneless > 0)
                <x-check form="move" name="withoutReverse" label="leave out PTRs that no zone covers" />
              @endif
            </x-act>
          </div>
        </section>
        <x-follows-slot form="move" />
      @endif
    </aside>
  </div>
</x-layout>
