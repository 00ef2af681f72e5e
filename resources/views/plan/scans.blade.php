@php
  $blocked = $preflight !== null && collect($preflight)->contains(fn($c) => $c['stops']);
@endphp
<x-layout title="Scans" verb="plan">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('plan.space', $space->id) }}">{{ $space->name }}</a></li>
      <li aria-current="page">Scans</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Scans</h1>
    <span class="soft">who answers, compared with the plan; nothing planned is overwritten unasked</span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Scans of {{ $space->name }}</h2>
        </header>
        @if ($scans->isEmpty())
          <div class="empty">
            <h3>None yet</h3>
            <p class="soft">Choose subnets at the right.</p>
          </div>
        @else
          <x-table label="Scans" data-worktable>
            <thead>
              <tr>
                <th>Started</th>
                <th>Subnets</th>
                <th>State</th>
                <th class="num">Asked</th>
                <th class="num">Answered</th>
                <th>By</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($scans as $s)
                <tr>
                  <td class="name"><a href="{{ at('plan.scan', $s->id) }}"
                      title="{{ $s->started_at }}">{{ $s->started_at?->diffForHumans() ?? 'waiting' }}</a></td>
                  <td class="num">{{ count($s->prefixes) }}</td>
                  <td>{{ $s->state->value }}@if ($s->message)
                      <span class="hint wrap">{{ Str::limit($s->message, 80) }}</span>
                    @endif
                  </td>
                  <td class="num">{{ number_format($s->done) }} of {{ number_format($s->total) }}</td>
                  <td class="num">{{ number_format($s->answered) }}</td>
                  <td>{{ $people[$s->person_id] ?? ($s->schedule_id ? 'schedule' : '') }}</td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Schedules</h2>
        </header>
        @if ($schedules->isEmpty())
          <p class="pad open">none</p>
        @else
          <table>
            <thead>
              <tr>
                <th>Runs</th>
                <th class="num">Subnets</th>
                <th>Left out</th>
                <th>Last run</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              @foreach ($schedules as $s)
                <tr>
                  <td>every {{ $s->every }} at {{ sprintf('%02d:00', $s->hour) }}</td>
                  <td class="num">{{ count($s->prefixes) }}</td>
                  <td class="mono wrap">{{ implode(', ', $s->left_out) }}</td>
                  <td>{{ $s->last_run_at?->diffForHumans() ?? 'not yet' }}</td>
                  <td>
                    <form method="post" action="{{ at('act', 'cancel-scan') }}">@csrf
                      <input type="hidden" name="schedule" value="{{ $s->id }}">
                      <input type="hidden" name="stay" value="{{ at('plan.space.scans', $space->id) }}"><button class="btn small" name="then"
                        value="commit">End</button>
                    </form>
                  </td>
                </tr>
              @endforeach
            </tbody>
          </table>
        @endif
      </section>
    </div>
    <aside class="side">
      <section class="panel">
        <header>
          <h2>New scan</h2>
        </header>
        <form class="form pad" method="get" action="{{ at('plan.space.scans', $space->id) }}" id="newscan"><input type="hidden" name="look"
            value="1">
          <div class="field"><span><label for="also">Prefixes; a supernet stands for its live subnets</label></span>
            <textarea id="also" name="also" class="mono" rows="2" spellcheck="false">{{ request('also') }}</textarea>
          </div>
          <fieldset class="field">
            <legend>Or picked from the list</legend>
            <div class="ticks">
              @foreach ($subnets as $s)
                <label class="tick"><input type="checkbox" name="prefixes[]" value="{{ $s->id }}"
                    @checked(in_array($s->id, (array) request('prefixes', []), true))><span>{{ $s->name }} <span class="mono">{{ $s->prefix() }}</span>
                    <span class="hint">{{ $s->site?->name }}</span></span></label>
              @endforeach
            </div>
          </fieldset>
          <div class="field"><span><label for="leftOut">Runs left out, one a line</label></span>
            <textarea id="leftOut" name="leftOut" class="mono" rows="2" spellcheck="false">{{ implode("\n", $leftOut) }}</textarea>
          </div>
          <button class="btn @unless ($preflight) main @endunless"
            @unless ($preflight) data-key="main" @endunless>Look what is needed</button>
        </form>
      </section>
      @if ($preflight)
        <section class="follows" aria-label="Preflight">
          <h2>Before it runs</h2>
          <ul class="checks">
            @foreach ($preflight as $c)
              <li>@mark($c['ok'] ? 'ok' : ($c['stops'] ? 'stop' : 'warn'), $c['ok'] ? 'passed' : ($c['stops'] ? 'stops' : 'warns'))<span>
                  @if ($c['ok'])
                    {{ $c['what'] }}: {{ $c['words'] }}
                  @else
                    <b>{{ $c['what'] }}: {{ $c['words'] }}.</b> <span class="why">{{ $c['fix'] }}</span>
                  @endif
                </span>
              </li>
            @endforeach
          </ul>
          <form method="post" action="{{ at('plan.space.scans', $space->id) }}">@csrf @foreach ($picked as $p)
              <input type="hidden" name="prefixes[]" value="{{ $p->id }}">
            @endforeach
            <input type="hidden" name="also" value="{{ request('also') }}">
            <input type="hidden" name="leftOut" value="{{ implode("\n", $leftOut) }}">
            <div class="decide"><button class="btn main" data-key="main" @disabled($blocked)>Scan now <kbd>Ctrl Enter</kbd></button></div>
            <div class="row"><label class="sr" for="every">Or on a schedule</label>
              <select id="every" name="every">
                <option value="">or on a schedule</option>
                <option value="day">every day</option>
                <option value="week">every week</option>
              </select>
              <label for="hour">at</label>
              <select id="hour" name="hour">
                @foreach (range(0, 23) as $h)
                  <option value="{{ $h }}" @selected($h === 3)>{{ sprintf('%02d:00', $h) }}</option>
                @endforeach
              </select>
              <button class="btn small">Keep</button>
            </div>
          </form>
        </section>
      @endif
    </aside>
  </div>
</x-layout>
