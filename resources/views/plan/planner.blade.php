@php
  $chosen = $plans[$strategy->value]['plan'] ?? null;
  $n = fn($v) => number_format($v);
  $asked = fn($s) => ['needs' => $needs, 'in' => $in, 'strategy' => $s];
@endphp
<x-layout title="Planner" verb="plan">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('plan.space', $space->id) }}">{{ $space->name }}</a></li>
      <li aria-current="page">Planner</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Planner</h1>
    <span class="soft">from a table of needs to sites with summarisable blocks and aligned subnets; nothing is written before you take it over</span>
  </header>
  <div class="split two">
    <div class="stack">
      <form class="panel" method="post" action="{{ at('plan.space.planner', $space->id) }}" enctype="multipart/form-data">@csrf
        <div class="pad-all form">
          <div class="field"><span><label for="in">Plan in, IPv4 and IPv6 prefixes apart by blanks</label></span><input id="in"
              name="in" class="mono" value="{{ $in }}" placeholder="10.46.0.0/16 2001:db8:4b40::/44" list="places"
              autocomplete="off" spellcheck="false"><datalist id="places">
              @foreach ($places as $p => $t)
                <option value="{{ $p }}">{{ $t }}</option>
              @endforeach
            </datalist>
          </div>
          <div class="field"><span><label for="needs">Needs: site, purpose, hosts, growth % a year, years, v6, vlan</label></span>
            @php
              $example = ['site,purpose,hosts,growth,years,v6,vlan', 'Ebb Cove,Ticketing,40,5,3,yes,110', 'Ebb Cove,CCTV,180,10,3,no,120+'];
            @endphp
            <textarea id="needs" name="needs" class="mono" rows="{{ $chosen ? 6 : 12 }}" spellcheck="false"
              placeholder="{{ implode("\n", $example) }}">{{ $needs }}</textarea>
            <span class="hint">typed, pasted or from a file; a VLAN is a number, 110+ for the first free from there, or 200-299</span>
          </div>
          <div class="row"><label class="sr" for="file">A file with the table</label><input id="file" type="file" name="file"
              accept=".csv,.tsv,.txt"><input type="hidden" name="strategy" value="{{ $strategy->value }}">
            <button class="btn main end" data-key="main">Compute <kbd>Ctrl Enter</kbd></button>
          </div>
        </div>
      </form>
      @if ($planner && $planner->faults !== [])
        <div class="fault" role="alert">
          <h3>@mark('stop'){{ count($planner->faults) }} {{ count($planner->faults) === 1 ? 'thing' : 'things' }} could not be understood</h3>
          <ul>
            @foreach (array_slice($planner->faults, 0, 20) as $f)
              <li>{{ $f }}</li>
            @endforeach
          </ul>
          @if (count($planner->faults) > 20)
            <p>and {{ count($planner->faults) - 20 }} more</p>
          @endif
        </div>
      @endif
      @if ($plans !== [])
        <section class="panel">
          <header>
            <h2>Three ways</h2>
            <span class="soft">{{ count($planner->needs) }} needs of {{ count($chosen->sites) }} sites</span>
          </header>
          <x-table label="Strategies" class="ways">
            <thead>
              <tr>
                <th></th>
                @foreach ($plans as $key => $p)
                  <th scope="col">
                    @if ($key === $strategy->value)
                      <b>{{ $key }}, shown below</b>
                    @else
                      <form method="post" action="{{ at('plan.space.planner', $space->id) }}">@csrf @foreach ($asked($key) as $f => $v)
                          <input type="hidden" name="{{ $f }}" value="{{ $v }}">
                        @endforeach
                        <button class="btn small">Show {{ $key }}</button>
                      </form>
                    @endif
                  </th>
                @endforeach
              </tr>
            </thead>
            <tbody>
              <tr>
                <th scope="row">How</th>
                @foreach ($plans as $key => $p)
                  <td class="wrap">{{ \HarborPost\Core\Planning\Strategy::from($key)->explained() }}</td>
                @endforeach
              </tr>
              <tr>
                <th scope="row">Fits</th>
                @foreach ($plans as $p)
                  <td>
                    @if ($p['plan']->isWhole())
                      <span class="okay">@mark('ok') all of it</span>
                    @else
                      <span class="stopped">@mark('stop') {{ count($p['plan']->unplaced) }} not</span>
                    @endif
                  </td>
                @endforeach
              </tr>
              <tr>
                <th scope="row">Addresses held</th>
                @foreach ($plans as $p)
                  <td class="num">{{ $n($p['form']['totals']['held']) }}</td>
                @endforeach
              </tr>
              <tr>
                <th scope="row">in subnets</th>
                @foreach ($plans as $p)
                  <td class="num">{{ $n($p['form']['totals']['taken']) }}</td>
                @endforeach
              </tr>
              <tr>
                <th scope="row">wanted at the end</th>
                @foreach ($plans as $p)
                  <td class="num">{{ $n($p['form']['totals']['wanted']) }}</td>
                @endforeach
              </tr>
              <tr>
                <th scope="row">Waste: held, not wanted</th>
                @foreach ($plans as $p)
                  <td class="num">{{ $n($p['form']['totals']['held'] - $p['form']['totals']['wanted']) }}
                    ({{ $p['form']['totals']['held'] > 0 ? round(100 - (100 * $p['form']['totals']['wanted']) / $p['form']['totals']['held']) : 0 }}%)
                  </td>
                @endforeach
              </tr>
              <tr>
                <th scope="row">Headroom, least to most</th>
                @foreach ($plans as $p)
                  @php
                    $h = array_map(fn($s) => $s->headroom(), $p['plan']->sites);
                  @endphp
                  <td class="num">{{ round(100 * min($h)) }}% to {{ round(100 * max($h)) }}%</td>
                @endforeach
              </tr>
              <tr>
                <th scope="row">Routes: sites, summarised</th>
                @foreach ($plans as $p)
                  <td class="num">{{ $p['form']['routes'] }}, {{ count($p['form']['summary']) }}</td>
                @endforeach
              </tr>
            </tbody>
          </x-table>
        </section>
        @if (!$chosen->isWhole())
          <div class="fault" role="alert">
            <h3>@mark('stop')Not everything fits</h3>
            <ul>
              @foreach (\App\View\PlanForm::shortage($plans[$strategy->value]['form']) as $line)
                <li>{{ ucfirst($line) }}</li>
              @endforeach
            </ul>
          </div>
        @endif
        @foreach ($planner->wholes as $whole)
          @php
            $blocks = \App\View\PlanStrip::sites($whole, $chosen, $planner->open);
          @endphp
          @continue($blocks === [])
          <section class="panel chart" aria-label="The plan in {{ $whole }}, to scale; the table below says the same"><svg class="strip"
              height="106" role="group"><text class="mono" x="0" dx="5" y="12">{{ $whole }}</text>
              @foreach (range(0, 14, 2) as $i)
                <rect class="bar" x="{{ $i * 6.25 }}%" y="16" width="6.25%" height="6" />
              @endforeach
              <rect class="box" y="16" width="100%" height="6" />{{ \App\View\Strip::draw($blocks, 22, 80, 8.2) }}
            </svg></section>
        @endforeach
        <section class="panel">
          <header>
            <h2>Plan</h2>
            <span class="soft">{{ implode(', ', array_slice($plans[$strategy->value]['form']['summary'], 0, 6)) }} covers it</span>
          </header>
          <x-table label="Plan">
            <thead>
              <tr>
                <th>Site, purpose</th>
                <th>Prefix</th>
                <th>IPv6</th>
                <th class="num">Hosts now</th>
                <th class="num">then</th>
                <th class="num">Spare</th>
                <th>VLAN</th>
              </tr>
            </thead>
            @foreach ($chosen->sites as $site)
              <tbody>
                <tr class="holder">
                  <td class="name">{{ $site->site }} <span class="hint">{{ round(100 * $site->headroom()) }}% open</span></td>
                  <td class="mono">{{ $site->prefix ?? 'no place' }}</td>
                  <td class="mono">{{ $site->prefix6 }}</td>
                  <td colspan="4"><svg class="strip mini" height="22"
                      aria-hidden="true">{{ \App\View\Strip::draw(\App\View\PlanStrip::subnets($site), 0, 20, 3.2) }}</svg></td>
                </tr>
                @foreach ($site->subnets as $s)
                  <tr>
                    <td class="under">{{ $s->need->purpose }}</td>
                    <td class="mono">{{ $s->prefix ?? '' }}@unless ($s->prefix)
                      <span class="open">/{{ $s->need->length() }} wanted</span>
                    @endunless
                  </td>
                  <td class="mono">{{ $s->prefix6 }}</td>
                  <td class="num">{{ $n($s->need->hosts) }}</td>
                  <td class="num">{{ $n($s->need->hostsThen()) }}</td>
                  <td class="num">{{ $s->prefix ? $n($s->spare()) : '' }}</td>
                  <td>{{ $s->need->vlan }}</td>
                </tr>
              @endforeach
            </tbody>
            @endforeach
          </x-table>
      </section>
    @endif
  </div>
  <aside class="side">
    @if ($chosen && $chosen->isWhole() && $planner->faults === [])
      <section class="panel">
        <header>
          <h2>Take it over</h2>
        </header>
        <div class="pad">
          <x-act id="take" action="take-plan" :live="false">
            <input type="hidden" name="space" value="{{ $space->id }}">
            <input type="hidden" name="needs" value="{{ $needs }}"><input type="hidden" name="in"
              value="{{ $in }}">
            <input type="hidden" name="strategy" value="{{ $strategy->value }}"><input type="hidden" name="seenPlan"
              value="{{ $seen }}">
            <x-field form="take" name="stage" label="Stage" :options="['planned' => 'planned', 'live' => 'live']" />
            <x-field form="take" name="vlans" label="VLANs" :options="['1' => 'make them in each site\'s domain', '0' => 'leave them out']" />
            <x-field form="take" name="view" label="Reverse zones" :options="$choices->views()" blank="make none" />
            <button class="btn" name="then" value="preview" hx-post="{{ at('act', 'take-plan') }}" hx-target="#follows-take" hx-swap="innerHTML">Show
              what follows</button></x-act>
        </div>
      </section>
      <div id="follows-take" class="follows-slot" aria-live="polite"></div>
    @else
      <section class="panel">
        <div class="pad-all soft">
          <p>One act takes the plan over: sites, supernets, VLANs, subnets with the gateway that is the habit there, and reverse zones.</p>
          <p>{{ $planner ? 'It waits until everything is understood and fits.' : 'First compute one.' }}</p>
        </div>
      </section>
    @endif
  </aside>
</div>
</x-layout>
