@php
  $any = collect($find->found)->contains(fn($rows) => $rows->isNotEmpty());
  $single = $find->net !== null && $find->net->length === $find->net->family()->bits();
@endphp
<x-layout :title="'Find ' . $q">
  <header class="title">
    <h1>Find</h1>
    <span class="mono">{{ $q }}</span>
  </header>
  @if ($q === '')
    <div class="empty">
      <h3>What are you looking for?</h3>
      <p class="soft">An address, a prefix in any form, a name or words inside names and descriptions, a MAC address, a VLAN number, or a site,
        tenant or server by any part of its name; with a tenant or a site comes what is theirs.</p>
    </div>
  @else
    <div class="notice"><span class="grow">Read as {{ implode('; ', $find->understood) ?: 'nothing known' }}.</span></div>
    <div class="split two">
      <div class="stack">
        @if ($commands !== [])
          <section class="panel">
            <header>
              <h2>Do it</h2>
            </header>
            <ul class="plain-list pad-all">
              @foreach ($commands as $c)
                <li>
                  <a href="{{ $c['link'] }}">{{ $c['words'] }}</a>
                  <span class="soft">{{ $c['hint'] }}</span>
                </li>
              @endforeach
            </ul>
          </section>
        @endif
        @if ($find->tells !== [])
          <section class="panel">
            <header>
              <h2>What it is</h2>
            </header>
            <ul class="plain-list pad-all">
              @foreach ($find->tells as $one)
                <li>
                  @if ($one['link'])
                    <a href="{{ $one['link'] }}">{{ $one['words'] }}</a>
                  @else
                    {{ $one['words'] }}
                  @endif
                </li>
              @endforeach
            </ul>
          </section>
        @endif
        @unless ($any || $commands !== [])
          <div class="empty">
            <h3>Nothing is known of it</h3>
            <p class="soft">
              Names of zones and records are searched from their start, those of hosts and prefixes from the start of each word.
              @if ($find->net && auth()->user()->does(App\Models\Role::Planner))
                <a href="{{ at('plan') }}">Carve it from a supernet</a>
              @endif
            </p>
          </div>
        @endunless
        @foreach ($find->found as $kind => $rows)
          @continue ($rows->isEmpty())
          <section class="panel">
            <header>
              <h2>{{ $kind }}</h2>
              <span class="soft">{{ $rows->count() }}{{ $rows->count() >= 50 ? ' or more' : '' }}</span>
            </header>
            <x-table :label="$kind" data-worktable>
              <tbody>
                @foreach ($rows as $row)
                  <tr>
                    @include('find.row')
                  </tr>
                @endforeach
              </tbody>
            </x-table>
          </section>
        @endforeach
      </div>
      <aside class="side">
        @if ($facts)
          <section class="panel">
            <header>
              <h2>Facts</h2>
            </header>
            <dl class="facts pad">
              @include('plan.facts')
              <dt>Wildcard</dt>
              <dd class="mono">{{ $facts['wildcard'] }}</dd>
              <dt>Hex</dt>
              <dd class="mono">{{ $facts['hex'] }}</dd>
            </dl>
          </section>
        @endif
      </aside>
    </div>
  @endif
</x-layout>
