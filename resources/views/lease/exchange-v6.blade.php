@php
  $taken = $computed?->taken();
  $chosen = $scope->placements->firstWhere('server_id', $server) ?? ($scope->placements->firstWhere('server_id', $taken?->id) ?? $scope->placements->first());
@endphp
<x-layout title="Exchange" verb="lease" work="client" does="describe a client">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('lease') }}">Scopes</a></li>
      <li><a href="{{ at('lease.scope', $scope->id) }}">{{ $scope->name }}</a></li>
      <li aria-current="page">Exchange</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Exchange</h1>
    <span class="soft">what a client of IPv6 would get, computed and tried</span>
    @include('lease.nav', ['here' => 'Exchange'])
  </header>
  <form id="client" class="panel bar-line fields" method="get" action="{{ at('lease.exchange') }}">
    <x-field form="client" name="scope" label="Scope, by its relay" pick="scope" blank="name of a scope" :value="$scope->id" :shown="$scope->name" />
    <div class="field"><span><label for="wants">It wants</label></span>
      <select id="wants" name="wants">
        @foreach (['address' => 'an address', 'prefix' => 'a prefix', 'both' => 'both', 'options' => 'options alone'] as $key => $word)
          <option value="{{ $key }}" @selected($input['wants'] === $key)>{{ $word }}</option>
        @endforeach
      </select>
    </div>
    @foreach ([
        'duid' => ['DUID', 30, ''],
        'iaid' => ['IAID', 6, ''],
        'name' => ['Host name (39)', 12, ''],
        'asked' => ['Options asked for', 14, 'all there are'],
        'requested' => ['Address asked for', 18, ''],
        'length' => ['Length asked for', 6, 'any'],
    ] as $name => [$label, $wide, $hint])
      <div class="field"><span><label for="{{ $name }}">{{ $label }}</label></span>
        <input id="{{ $name }}" name="{{ $name }}" class="mono" value="{{ $input[$name] }}" size="{{ $wide }}"
          placeholder="{{ $hint }}" autocomplete="off" spellcheck="false">
      </div>
    @endforeach
    <fieldset class="field">
      <legend>Rapid commit (14)</legend>
      <label class="tick"><input type="checkbox" name="rapid" value="1" @checked($input['rapid'] !== '')>it says so</label>
    </fieldset>
    @if ($scope->placements->count() > 0)
      <fieldset class="field">
        <legend>Out of service</legend>
        <div class="row">
          @foreach ($scope->placements->sortBy('server.name') as $p)
            <label class="tick"><input type="checkbox" name="down[]" value="{{ $p->server_id }}"
                @checked(in_array($p->server_id, $down, true))>{{ $p->server->name }}</label>
          @endforeach
        </div>
      </fieldset>
    @endif
    <button class="btn main" data-key="main">Compute <kbd>Ctrl Enter</kbd></button>
  </form>
  @include('lease.parts.exchange-problem')
  @if ($computed)
    <div class="split two">
      <div class="stack">
        <section class="panel">
          <header>
            <h2>Who answers</h2>
            <span class="soft">relay {{ $computed->relay }} selects {{ $scope->name }}, {{ $scope->prefix->prefix() }}</span>
          </header>
          <x-table label="Who answers">
            <thead>
              <tr>
                <th>Server</th>
                <th>Wanted</th>
                <th>Given</th>
                <th>Why</th>
              </tr>
            </thead>
            @foreach ($computed->servers as $c)
              <tbody>
                @foreach ($c['parts'] === [] ? [null] : $c['parts'] as $i => $part)
                  <tr>
                    <td>{{ $i === 0 ? $c['server']->name : '' }}</td>
                    <td>{{ $part === null ? 'options' : ($part['wish']->kind->value === 25 ? 'prefix' : 'address') }}</td>
                    <td class="mono">
                      @if ($c['silent'] === null && $part !== null && $part['choice']->net !== null)
                        {{ (new \HarborPost\Core\Dhcp\V6\Leased($part['choice']->net))->words() }}
                      @endif
                    </td>
                    <td class="wrap">
                      @if ($c['silent'] !== null)
                        @mark('warn') silent: {{ $c['silent'] }}
                      @elseif ($part === null)
                        told the options below
                      @elseif ($part['choice']->net === null)
                        @mark('warn') {{ $part['wish']->kind->none()->name }}: {{ $part['choice']->why }}
                      @else
                        {{ $part['choice']->why }}
                      @endif
                    </td>
                  </tr>
                @endforeach
              </tbody>
            @endforeach
            @if ($computed->servers === [])
              <tbody>
                <tr class="open">
                  <td colspan="4">the scope is on no server: nobody answers</td>
                </tr>
              </tbody>
            @endif
          </x-table>
          <p class="pad-all soft">
            @if (count($computed->answering()) > 1)
              Several answer: a client takes the one that prefers itself most by option 7, and else the one that gives most
              <span class="rfc">RFC 8415 §18.2.9</span>. Here that is {{ $taken?->name }}, or whichever it hears first where these are equal.
            @elseif ($computed->answering() === [])
              Nobody answers: the client gets nothing here.
            @else
              {{ $computed->answering()[0] }} alone answers.
            @endif
          </p>
        </section>
        @foreach ($computed->servers as $c)
          @if ($chosen && $c['server']->id === $chosen->server_id)
            <section class="panel">
              <header>
                <h2>What it is sent</h2>
                <span class="key"><i class="dot hit"></i>sent</span>
                <span class="key"><i class="dot under"></i>hidden</span>
                <span class="soft end">by {{ $c['server']->name }}; valid {{ $scope->leaseWords() }}, renewed {{ $scope->renewalWords() }}</span>
              </header>
              <div class="scroll-x" tabindex="0" role="region" aria-label="Options by layer">
                @include('lease.parts.sounding', ['rows' => \App\View\Sounding::of($c['stack'], $book, $computed->client->asked), 'net' => null, 'fixed' => []])
              </div>
              @php
                $none = $computed->without($c['stack']);
              @endphp
              @if ($none !== [])
                <p class="pad-all soft">Asked for, and there is none: {{ implode(', ', $none) }}.</p>
              @endif
            </section>
          @endif
        @endforeach
      </div>
      <div class="stack">
        @include('lease.parts.try')
      </div>
    </div>
  @endif
  @if ($exchange && $exchange->steps !== [])
    @include('lease.parts.ladder-v6', ['steps' => $exchange->steps])
  @endif
</x-layout>
