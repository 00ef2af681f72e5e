@php
  $now = Carbon\CarbonImmutable::now();
  $infinite = $page->scope?->lease_time === \App\Models\Scope::INFINITE;
@endphp
<x-layout :title="'Lease of ' . $lease->given()" verb="lease">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('lease.leases') }}">Leases</a></li>
      @if ($page->scope)
        <li><a href="{{ at('lease.scope', $page->scope->id) }}">{{ $page->scope->name }}</a></li>
      @endif
      <li aria-current="page">{{ $lease->given() }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1 class="mono">{{ $lease->given() }}</h1>
    <span class="mono">{{ $lease->client() ?: 'nobody' }}</span>
    <span class="soft">{{ $lease->host_name ?: 'a client without a name' }}, by {{ $lease->server->name }}, {{ $lease->stateWords() }}</span>
    <span class="end row">
      <a class="btn small" href="{{ at('find') }}?q={{ $lease->address }}">All about the address</a>
      @if ($lease->mac && $whole)
        <a class="btn small" href="{{ at('find') }}?q={{ urlencode($lease->mac) }}">All about the client</a>
      @endif
    </span>
  </header>
  <section class="panel">
    <header>
      <h2>Time</h2>
      <span class="soft">{{ $lease->starts_at->format('j M H:i') }} to {{ $infinite ? 'no end' : $lease->ends_at->format('j M H:i') }}</span>
    </header>
    @unless ($infinite)
      <div class="pad">
        {{ \App\View\LeaseBand::of($page->share($now), $page->share($page->t1()), $page->share($page->t2()), $active) }}
        <dl class="facts wide" aria-label="Times">
          <div>
            <dt>Asks its server again, T1</dt>
            <dd title="{{ $page->t1() }}">{{ $page->t1()->format('j M H:i') }}, {{ $page->t1()->diffForHumans() }}</dd>
          </div>
          <div>
            <dt>Asks any server, T2</dt>
            <dd title="{{ $page->t2() }}">{{ $page->t2()->format('j M H:i') }}, {{ $page->t2()->diffForHumans() }}</dd>
          </div>
          @if ($lease->preferred_at)
            <div>
              <dt>New connections begin with it until</dt>
              <dd title="{{ $lease->preferred_at }}">{{ $lease->preferred_at->format('j M H:i') }}, {{ $lease->preferred_at->diffForHumans() }}</dd>
            </div>
          @endif
          <div>
            <dt>Ends unless renewed</dt>
            <dd title="{{ $lease->ends_at }}">{{ $lease->ends_at->format('j M H:i') }}, {{ $lease->ends_at->diffForHumans() }}</dd>
          </div>
        </dl>
      </div>
    @endunless
  </section>
  <div class="split even">
    <section class="panel">
      <header>
        <h2>Who had it before</h2>
        <span class="soft">as the readings found it</span>
      </header>
      @if ($page->before === [])
        <p class="pad open">nobody that a reading found</p>
      @else
        <table>
          <thead>
            <tr>
              <th>Client</th>
              <th>Name</th>
              <th>Server</th>
              <th>From</th>
              <th>Found otherwise</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($page->before as $b)
              <tr>
                <td class="mono">{{ $b['client'] }}</td>
                <td>{{ $b['name'] }}</td>
                <td>{{ $b['server'] }}</td>
                <td title="{{ $b['from'] }}">{{ $b['from']->format('j M H:i') }}</td>
                <td title="{{ $b['until'] }}">{{ $b['until']->format('j M H:i') }}{{ $b['state'] === 'declined' ? ', was declined' : '' }}</td>
              </tr>
            @endforeach
          </tbody>
        </table>
      @endif
    </section>
    <section class="panel">
      <header>
        <h2>What else is known</h2>
      </header>
      <dl class="facts pad" aria-label="What else is known">
        @if ($lease->clientWords() !== '')
          <div>
            <dt>Client</dt>
            <dd>{{ $lease->clientWords() }}, <span class="mono">{{ \HarborPost\Core\Dhcp\V6\Duid::tryFrom($lease->client_id) }}</span></dd>
          </div>
        @endif
        <div>
          <dt>In the plan</dt>
          <dd>
            @if ($page->host)
              <a href="{{ at('plan.prefix', $page->host->prefix_id) }}?address={{ $page->host->address }}">
            {{ $page->host->name ?: 'a host without a name' }}</a>
            @elseif ($page->scope)
              <span class="open">not planned</span>
              <a href="{{ at('plan.prefix', $page->scope->prefix_id) }}?show=evidence">evidence of the subnet</a>
            @endif
          </dd>
        </div>
        <div>
          <dt>Reserved</dt>
          <dd>
            @if ($page->reservation)
              for <span class="mono">{{ $page->reservation->client() }}</span> {{ $page->reservation->name }}
            @else
              <span class="open">for nobody</span>
            @endif
          </dd>
        </div>
        <div>
          <dt>Names</dt>
          <dd>
            @forelse ($page->names as $n)
              <a class="mono"
                href="{{ at('name.zone', $n->zone_id) }}?filter={{ urlencode(rtrim($n->owner, '.')) }}">{{ rtrim($n->owner, '.') }}</a>
              <span class="hint">{{ $n->zone->view->name }}</span>
            @empty
              <span class="open">none points at it</span>
            @endforelse
          </dd>
        </div>
      </dl>
      @if ($page->elsewhere !== [])
        <header>
          <h2>The same client</h2>
          <span class="soft">other leases of {{ $lease->client() }}</span>
        </header>
        <table>
          <thead>
            <tr>
              <th>Address</th>
              <th>Server</th>
              <th>Until</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($page->elsewhere as $l)
              <tr>
                <td class="mono"><a href="{{ at('lease.lease', $l->id) }}">{{ $l->given() }}</a></td>
                <td>{{ $l->server->name }}</td>
                <td title="{{ $l->ends_at }}">{{ $l->stateWords() === 'active' ? $l->ends_at->diffForHumans() : $l->stateWords() }}</td>
              </tr>
            @endforeach
          </tbody>
        </table>
      @endif
    </section>
  </div>
  @if ($reservable && $active && !$page->reservation)
    <div class="split two">
      <section class="panel">
        <header>
          <h2>Reserve</h2>
        </header>
        <div class="pad">
          <x-act id="reserveleases" action="reserve-leases" stay="{{ at('lease.lease', $lease->id) }}">
            <input type="hidden" name="leases[]" value="{{ $lease->id }}">
            <p class="hint">Its client keeps {{ $lease->given() }}: the lease becomes a reservation.</p>
          </x-act>
        </div>
      </section>
      <div class="side">
        <x-follows-slot form="reserveleases" button="Reserve it for this client" />
      </div>
    </div>
  @endif
</x-layout>
