@php
  $mark = ['error' => 'stop', 'warning' => 'warn', 'note' => 'turn'];
  $called = fn(array $ids): string => collect($ids)->map(fn($p) => $people[$p] ?? '?')->implode(', ');
  $levels = collect($rules)->mapWithKeys(fn($r) => [$r->kind->value => $r->level->value]);
@endphp
<x-layout title="Notices" verb="watch">
  <header class="title">
    <h1>Notices</h1>
    <span class="soft">one a cause, until it is over</span>
    <span class="end row">
      @include('watch.tabs', ['here' => at('watch.notices')])
    </span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        @if ($open->isEmpty())
          <x-empty title="Nothing calls">Every minute it is looked whether one of the causes at the right holds. What is over goes by itself.</x-empty>
        @else
          @if ($may)
            <form id="take" method="post" action="{{ at('act', 'take-notices') }}" class="bar-line" data-needs-pick hidden>@csrf
              <input type="hidden" name="then" value="preview">
              <span class="soft"><span data-picked>0</span> picked</span>
              <button class="btn small" name="hours" value="0">I look after them</button>
              <button class="btn small" name="hours" value="8">Quiet for 8 hours</button>
              <button class="btn small" name="hours" value="72">Quiet for 3 days</button>
            </form>
          @endif
          <x-table label="Notices" data-worktable>
            <thead>
              <tr>
                @if ($may)
                  <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
                @endif
                <th>Notice</th>
                <th>What</th>
                <th>Since</th>
                <th>Who looks after it</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($open as $n)
                <tr @class(['open' => $n->taken_by !== null || $n->quiet_until?->isFuture()])>
                  @if ($may)
                    <td class="pickcell"><input type="checkbox" class="pick" form="take" name="notices[]" value="{{ $n->id }}"
                        aria-label="Pick {{ $n->title }}"></td>
                  @endif
                  <td class="name wrap">@mark($mark[$levels[$n->kind->value]])
                    @if ($n->leads(auth()->user()))
                      <a href="{{ $n->link }}">{{ $n->title }}</a>
                    @else
                      {{ $n->title }}
                    @endif
                  </td>
                  <td class="wrap">{{ $n->words }}</td>
                  <td>{{ $n->since->diffForHumans() }}</td>
                  <td>
                    @if ($n->taken_by)
                      {{ $n->taker->name ?? 'somebody' }}, {{ $n->taken_at?->diffForHumans() }}
                    @elseif ($n->quiet_until?->isFuture())
                      quiet until {{ $n->quiet_until->format('j M, H:i') }} UTC
                    @else
                      <b>nobody</b>{{ $n->raised_at ? ', told further ' . $n->raised_at->diffForHumans() : '' }}
                    @endif
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
          @if ($count > $shown)
            <p class="pad soft">The first {{ $shown }} of {{ number_format($count) }}.</p>
          @endif
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Over</h2>
        </header>
        <ul class="lines pad">
          @forelse ($over as $n)
            <li>@mark('ok') {{ $n->title }} <span class="hint">{{ $n->since->diffForHumans($n->over_at, true) }}, over
                {{ $n->over_at->diffForHumans() }}</span></li>
          @empty
            <li class="open">nothing was over yet</li>
          @endforelse
        </ul>
      </section>
    </div>
    <aside class="side">
      <section class="panel">
        <header>
          <h2>What one is told of</h2>
        </header>
        <ul class="lines pad">
          @foreach ($rules as $r)
            <li>
              @mark($r->active ? $mark[$r->level->value] : 'cut')
              @if ($may)
                <a href="{{ at('watch.notices') }}?rule={{ $r->kind->value }}#notice-rule">{{ $r->kind->title() }}</a>
              @else
                {{ $r->kind->title() }}
              @endif
              <br><span class="hint">
                @if (!$r->active)
                  off
                @else
                  {{ $r->kind->whenTold($r->threshold) }}{{ $r->minutes > 0 ? ", when it holds for $r->minutes min" : '' }},
                  to {{ $r->people === [] ? 'everybody who works on everything' : $called($r->people) }}{{ $r->after > 0
                      ? "; when nobody looks after it for $r->after min also to " . $called($r->further ?? [])
                      : '' }}
                @endif
              </span>
            </li>
          @endforeach
        </ul>
      </section>
      @if ($edit && $may)
        <section class="panel">
          <header>
            <h2>{{ $edit->kind->title() }}</h2>
          </header>
          <div class="pad">
            <x-act id="notice-rule" action="keep-notice-rule">
              <input type="hidden" name="kind" value="{{ $edit->kind->value }}">
              <div class="pair">
                @if ($edit->kind->unit())
                  <x-field form="notice-rule" name="threshold" :label="'From ' . $edit->kind->unit()" type="number" min="0" :value="$edit->threshold" />
                @endif
                <x-field form="notice-rule" name="minutes" label="When it holds for minutes" type="number" min="0" :value="$edit->minutes" />
                <x-field form="notice-rule" name="level" label="Level" :value="$edit->level->value"
                  :options="['error' => 'error', 'warning' => 'warning', 'note' => 'note']" />
                <x-field form="notice-rule" name="off" label="Told" :value="$edit->active ? '0' : '1'" :options="['0' => 'yes', '1' => 'no']" />
              </div>
              <x-field form="notice-rule" name="people[]" label="To" multiple :options="$people" :value="$edit->people"
                hint="nobody picked: everybody who works on everything" />
              <x-field form="notice-rule" name="after" label="When nobody looks after it for minutes" type="number" min="0" :value="$edit->after"
                hint="0: nobody else is told" />
              <x-field form="notice-rule" name="further[]" label="Then also to" multiple :options="$people" :value="$edit->further ?? []" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="notice-rule" />
      @endif
    </aside>
  </div>
</x-layout>
