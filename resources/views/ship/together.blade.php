@php
  $ready = $together->ready();
  $behind = array_filter($together->stops, fn($s) => $s['after'] !== []) !== [];
  $names = implode(', ', array_map(fn($s) => $s['server']->name, $ready));
@endphp
<x-layout title="Ship together" verb="ship" work="ship" does="ship">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('ship') }}">Servers</a></li>
      <li aria-current="page">Together</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Ship together</h1>
    <span class="soft">
      @foreach ($scopes as $s)
        <a href="{{ at('lease.scope', $s->id) }}">{{ $s->name }}</a>{{ $loop->last && $zones->isEmpty() ? '' : ',' }}
      @endforeach
      @foreach ($zones as $z)
        <a href="{{ at('name.zone', $z->id) }}">{{ $z->title() }}</a> in {{ $z->view->name }}{{ $loop->last ? '' : ',' }}
      @endforeach
    </span>
  </header>
  <div id="together" class="stack"
    @if ($together->runs()) hx-get="{{ request()->fullUrl() }}" hx-trigger="every 1s" hx-select="#together" hx-swap="outerHTML"
    @elseif ($together->isBehind()) hx-get="{{ request()->fullUrlWithQuery(['now' => 1]) }}" hx-trigger="load" hx-select="#together"
    hx-swap="outerHTML" @endif>
    @if ($together->isDone())
      <div class="notice" role="status">
        @mark('ok')
        <span class="grow">Everything of it is as intended on
          {{ collect($together->stops)->map(fn($s) => $s['server']->name)->join(', ', ' and ') }}, compared just now.</span>
        @foreach ($scopes->take(3) as $s)
          <a class="btn small" href="{{ at('lease.exchange') }}?scope={{ $s->id }}" data-step>Try {{ $s->name }}
            <kbd aria-hidden="true">{{ $loop->iteration }}</kbd></a>
        @endforeach
        @if ($zones->isNotEmpty())
          <a class="btn small" href="{{ at('name.test') }}" data-step>Test what was changed
            <kbd aria-hidden="true">{{ $scopes->take(3)->count() + 1 }}</kbd></a>
        @endif
      </div>
    @endif
    <div @class(['split', 'two' => $may && $ready !== []])>
      <section class="panel">
        @if ($together->stops === [])
          <x-empty title="Nothing to ship">No server holds this: a zone or a scope is placed on servers on its own page.</x-empty>
        @else
          <x-table label="Servers">
            <thead>
              <tr>
                <th>Server</th>
                <th>Does</th>
                @if ($behind)
                  <th>Behind</th>
                @endif
                <th>What differs</th>
                <th>Shipment</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($together->stops as $s)
                <tr>
                  <td class="name"><a href="{{ at('ship.server', $s['server']->id) }}">{{ $s['server']->name }}</a></td>
                  <td>{{ $s['server']->does() }}</td>
                  @if ($behind)
                    <td>{{ implode(', ', $s['after']) }}</td>
                  @endif
                  <td class="wrap">
                    @if ($s['shut'])
                      <span class="stopped">@mark('stop') {{ $s['shut'] }}</span>
                    @elseif ($s['late'])
                      @mark('wait') slow: it is asked behind this page
                      <noscript><a href="{{ request()->fullUrlWithQuery(['now' => 1]) }}">ask and wait</a></noscript>
                    @elseif ($s['problem'])
                      <span class="stopped">@mark('stop') {{ $s['problem'] }}</span>
                    @elseif ($together->runs())
                      <span class="open">looked at when all have ended</span>
                    @elseif ($s['work'] === [])
                      @mark('ok') as intended
                    @else
                      @foreach ($s['work'] as $d)
                        <div>@mark($d->state === \App\Links\DifferenceState::New ? 'add' : 'turn') {{ $d->title }}, {{ number_format($d->addedCount) }} to add,
                          {{ number_format($d->removedCount) }} to remove
                          @if ($d->drifted)
                            <span class="warn">drifted</span>
                          @endif
                        </div>
                      @endforeach
                    @endif
                  </td>
                  <td class="wrap">
                    @if ($s['run'])
                      @mark('wait')
                      {{ $s['run']->total !== null
                          ? count($s['run']->steps) . ' of ' . $s['run']->total
                          : ($s['run']->state === \App\Models\ShipmentState::Waiting ? 'waits' : 'comparing') }}
                    @elseif ($s['last'])
                      @mark($s['last']->state === \App\Models\ShipmentState::Done ? 'ok' : 'warn')
                      {{ $s['last']->outcome() }}, {{ $s['last']->finished_at->diffForHumans() }}
                      @foreach (collect($s['last']->steps)->where('state', '!=', App\Models\StepState::Done->value)->take(3) as $step)
                        <div>@mark('stop') {{ $step['what'] }} {{ $step['message'] }}</div>
                      @endforeach
                      @if ($s['last']->state !== \App\Models\ShipmentState::Done)
                        <div>{{ $s['last']->message }}</div>
                      @endif
                    @endif
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
      @if ($may && $ready !== [])
        <div class="side">
          <section class="follows" aria-label="What follows">
            <h2>What follows</h2>
            <p class="cause">Ship to <b>{{ $names }}</b></p>
            <div class="scroll" tabindex="0" role="region" aria-label="What would be shipped">
              <h3>Sent</h3>
              <ol class="wake">
                @foreach ($ready as $s)
                  @foreach ($s['work'] as $d)
                    <li>@mark($d->state === \App\Links\DifferenceState::New ? 'add' : 'turn')<span>{{ $s['server']->name }}: {{ $d->title }}</span></li>
                  @endforeach
                @endforeach
                <li>@mark('wait')<span>each is read back and asked when it is there; a server behind another waits until that one ended well</span></li>
              </ol>
            </div>
            <form id="ship" method="post" action="{{ at('ship.together') }}">
              @csrf
              @foreach ($objects as $o)
                <input type="hidden" name="only[]" value="{{ $o }}">
              @endforeach
              @foreach ($together->shown() as $server => $digest)
                <input type="hidden" name="saw[{{ $server }}]" value="{{ $digest }}">
              @endforeach
              <div class="decide">
                <button class="btn main" data-key="main">Ship and verify <kbd>Ctrl Enter</kbd></button>
              </div>
            </form>
          </section>
        </div>
      @endif
    </div>
  </div>
</x-layout>
