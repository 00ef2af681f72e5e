@php
  $running = $scan->state->runs();
@endphp
<x-layout title="Scan" verb="plan">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('plan.space', $space->id) }}">{{ $space->name }}</a></li>
      <li><a href="{{ at('plan.space.scans', $space->id) }}">Scans</a></li>
      <li aria-current="page">{{ $scan->started_at?->format('j M Y H:i') ?? 'waiting' }}</li>
    </ol>
  </nav>
  <div id="scan-body" class="stack"
    @if ($running) hx-get="{{ at('plan.scan', $scan->id) }}" hx-trigger="every 1s" hx-select="#scan-body" hx-swap="outerHTML" @endif>
    <header class="title">
      <h1>Scan of {{ $prefixes->count() === 1 ? ($prefixes[0]->name ?: $prefixes[0]->prefix()) : $prefixes->count() . ' subnets' }}</h1>
      <span class="soft">{{ $scan->state->value }}; {{ number_format($scan->done) }} of {{ number_format($scan->total) }} asked,
        {{ number_format($scan->answered) }} answered</span>
    </header>
    @if ($running)
      <section class="panel pad-all"><label
          for="bar">{{ $scan->state->waits() ? 'Waiting for its turn' : number_format($scan->done) . ' addresses asked' }}</label> <progress
          id="bar" max="{{ max(1, $scan->total) }}" value="{{ $scan->done }}"></progress>
        <form method="post" action="{{ at('act', 'cancel-scan') }}">@csrf
          <input type="hidden" name="scan" value="{{ $scan->id }}">
          <button class="btn small" name="then" value="commit">Cancel</button>
        </form>
      </section>
    @endif
    @if ($scan->message)
      <div class="fault" role="alert">
        <h3>@mark('stop')It stopped after {{ number_format($scan->done) }} addresses</h3>
        <p>{{ $scan->message }}</p>
      </div>
    @endif
    <div class="split two">
      <section class="panel">
        <div class="bar-line"><span class="oneof">
            @foreach (App\Models\SightingVerdict::SHOWN as $v)
              <a href="?verdict={{ $v->value }}"
                @if ($v === $verdict) aria-current="true" @endif>{{ number_format($counts[$v->value] ?? 0) }} {{ $v->words() }}</a>
            @endforeach
          </span>
        </div>
        @if ($rows->isEmpty())
          <div class="empty">
            <h3>None</h3>
          </div>
        @else
          <x-table label="Results" data-worktable :data-paged="(bool) $next || request()->hasAny(['after', 'before'])">
            <thead>
              <tr>
                <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
                <th>Address</th>
                <th>Planned</th>
                <th>MAC planned</th>
                <th>MAC seen</th>
                <th>Points back to</th>
                <th>Verdict</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($rows as $r)
                @php
                  $h = $hosts[$r->host_id] ?? null;
                @endphp
                <tr>
                  <td class="pickcell"><input type="checkbox" class="pick" form="takein" name="results[]" value="{{ $r->id }}"
                      aria-label="Pick {{ $r->address }}"></td>
                  <td class="mono"><a href="{{ at('plan.prefix', $r->prefix_id) }}?address={{ $r->address }}">{{ $r->address }}</a></td>
                  <td class="mono wrap">{{ $h?->name }}@if ($h && $h->name === '')
                      <span class="open">no name</span>
                    @elseif(!$h)
                      <span class="open">no</span>
                    @endif
                  </td>
                  <td class="mono">{{ $h?->mac }}</td>
                  <td class="mono">{{ $r->mac }}</td>
                  <td class="mono wrap">{{ $r->ptr }}</td>
                  <td class="wrap">{{ $r->words ?: 'agrees' }}</td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
          @if ($next)
            <p class="bar-line"><a href="{{ request()->fullUrlWithQuery(['after' => $next]) }}">Further</a></p>
          @endif
        @endif
      </section>
      <aside class="side">
        @unless ($running)
          <section class="panel">
            <header>
              <h2>Take in</h2>
            </header>
            <div class="pad">
              <x-act id="takein" action="take-sightings" :stay="request()->getRequestUri()"><input type="hidden" name="scan" value="{{ $scan->id }}">
                <p class="hint"><span data-picked>0</span> picked. Each field of planned hosts is taken only where its box is ticked; What follows
                  shows old and new.</p>
                <x-check form="takein" name="place" label="place the unknown" :on="$verdict === App\Models\SightingVerdict::Unknown" />
                <x-check form="takein" name="macs" label="take the MAC that was seen" />
                <x-check form="takein" name="names" label="take the name it points back to" />
                <x-check form="takein" name="ptrs" label="write missing PTRs" />
                <x-check form="takein" name="release" label="release the silent" />
              </x-act>
            </div>
          </section>
          <x-follows-slot form="takein" />
        @endunless
      </aside>
    </div>
  </div>
</x-layout>
