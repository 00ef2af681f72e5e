@php
  $six = $net?->family()->value === 6;
@endphp
<x-layout title="Calculator" verb="plan">
  <header class="title">
    <h1>Calculator</h1>
    @if ($net)
      <span class="mono">{{ $net }}</span>
      @endif @if ($understood)
        <span class="soft">read as {{ $understood }}</span>
      @endif
  </header>
  <form class="panel bar-line" action="{{ at('plan.calculator') }}">
    <div class="field grow"><span><label for="p">A prefix in any form: 10.1.2.3/20, 10.1.2.3 255.255.240.0, a range, an
          address</label></span><input id="p" name="p" class="mono" value="{{ $text }}" size="44" autofocus
        @if ($problem) aria-invalid="true" aria-describedby="p-problem" @endif></div>
    <button class="btn main" data-key="main">Compute <kbd>Ctrl Enter</kbd></button>
  </form>
  @if ($problem)
    <div class="fault" role="alert" id="p-problem">
      <h3>@mark('stop')Not understood</h3>
      <p>{{ $problem }}</p>
      <p class="mono pointer">{{ $text }}<br>{!! str_repeat('&nbsp;', min(60, $offset ?? 0)) !!}^</p>
    </div>
  @endif
  @if ($range)
    <section class="panel">
      <header>
        <h2>{{ $range }}</h2>
        <span class="soft">the fewest prefixes that cover it</span>
      </header>
      <table>
        <tbody>
          @foreach (array_slice($pieces, 0, 256) as $p)
            <tr>
              <td class="mono"><a href="?p={{ urlencode((string) $p) }}">{{ $p }}</a></td>
              <td class="num">
                @php
                  $endless = \App\View\Level::usable($p->family()->value, $p->length) === null;
                @endphp
                {{ $endless ? '2^' . ($p->family()->bits() - $p->length) : number_format($p->size()->toInt()) }}
              </td>
            </tr>
          @endforeach
        </tbody>
      </table>
    </section>
  @endif
  @if ($net)
    <div class="split two">
      <div class="stack">
        <section class="panel">
          <header>
            <h2>Facts</h2>
          </header>
          <dl class="facts pad">@include('plan.facts')<dt>Wildcard</dt>
            <dd class="mono">{{ $facts['wildcard'] }}</dd>
            <dt>Size</dt>
            <dd>{{ strlen($facts['size']) < 16 ? number_format((int) $facts['size']) : $facts['size'] }}</dd>
            <dt>Hex</dt>
            <dd class="mono">{{ $facts['hex'] }}</dd>
            <dt>Decimal</dt>
            <dd class="mono">{{ $net->first->toInteger() }}</dd>
          </dl>
        </section>
        <section class="panel">
          <header>
            <h2>Bits</h2>
            <span class="soft">network, then host</span>
          </header>
          <div class="scroll-x pad" tabindex="0" role="region" aria-label="Bits">
            <table class="bits mono">
              <thead>
                <tr>
                  @foreach (str_split($net->first->bytes, $six ? 2 : 1) as $part)
                    <th>{{ $six ? bin2hex($part) : ord($part) }}</th>
                  @endforeach
                </tr>
              </thead>
              <tbody>
                @foreach ([['network', $net->first->bytes], ['mask', $net->mask()->bytes], ['last', $net->last()->bytes]] as [$label, $bytes])
                  <tr>
                    @foreach (str_split($bytes, $six ? 2 : 1) as $n => $part)
                      <td>{{ \App\View\Draw::bits($part, $net->length - ($six ? 16 : 8) * $n) }}</td>
                    @endforeach
                    <td class="hint">{{ $label }}</td>
                  </tr>
                @endforeach
              </tbody>
            </table>
          </div>
        </section>
        <section class="panel">
          <header>
            <h2>Split</h2>
          </header>
          <form class="bar-line" action="{{ at('plan.calculator') }}"><input type="hidden" name="p" value="{{ $net }}">
            <label for="split">into</label>
            <select id="split" name="split">
              @for ($l = $net->length + 1; $l <= min($net->family()->bits(), $net->length + 16); $l++)
                <option value="{{ $l }}" @selected($l === $split)>/{{ $l }},
                  {{ number_format(2 ** ($l - $net->length)) }} pieces</option>
              @endfor
            </select>
            <button class="btn small">Show</button>
          </form>
          @if ($pieces !== [])
            <x-table label="Pieces">
              <thead>
                <tr>
                  <th>Prefix</th>
                  <th>Usable</th>
                  <th class="num">Hosts</th>
                </tr>
              </thead>
              <tbody>
                @foreach ($pieces as $p)
                  <tr>
                    <td class="mono"><a href="?p={{ urlencode((string) $p) }}">{{ $p }}</a></td>
                    <td class="mono">{{ $p->usable() }}</td>
                    <td class="num">
                      {{ ($u = \App\View\Level::usable($p->family()->value, $p->length)) === null ? '2^' . (128 - $p->length) : number_format($u) }}
                    </td>
                  </tr>
                @endforeach
              </tbody>
            </x-table>
            @if (2 ** ($split - $net->length) > count($pieces))
              <p class="bar-line hint">the first {{ count($pieces) }} of {{ number_format(2 ** ($split - $net->length)) }}</p>
            @endif
          @endif
        </section>
      </div>
      <aside class="side">
        <section class="panel">
          <header>
            <h2>Around it</h2>
          </header>
          <table>
            <tbody>
              @php
                [$half, $otherHalf] = ($net->halves() ?? []) + [null, null];
                $kin = ['half' => $half, 'other half' => $otherHalf, 'sibling' => $net->sibling(), 'holds it' => $net->supernet()];
              @endphp
              @foreach (array_filter($kin) as $label => $n)
                <tr>
                  <td>{{ $label }}</td>
                  <td class="mono"><a href="?p={{ urlencode((string) $n) }}">{{ $n }}</a></td>
                </tr>
              @endforeach
            </tbody>
          </table>
        </section>
        <section class="panel">
          <header>
            <h2>In the plan</h2>
          </header>
          @if ($stands === [])
            <p class="pad open">nothing there holds it or lies in it</p>
          @else
            <table>
              <tbody>
                @foreach ($stands as [$p, $space])
                  <tr>
                    <td class="wrap">{{ \App\View\Draw::swatch($p->stage) }} <a
                        href="{{ at('plan.prefix', $p->id) }}">{{ $p->name ?: $p->prefix() }}</a><br><span class="hint">{{ $space }},
                        {{ $p->kind }}</span></td>
                    <td class="mono">{{ $p->prefix() }}</td>
                  </tr>
                @endforeach
              </tbody>
            </table>
          @endif
        </section>
        <section class="panel">
          <header>
            <h2>Reverse zones</h2>
            <span class="soft">{{ count($zones) }}</span>
          </header>
          <ul class="pad plain mono">
            @foreach (array_slice($zones, 0, 24) as $z)
              <li>{{ rtrim((string) $z, '.') }}</li>
              @endforeach @if (count($zones) > 24)
                <li class="hint">and {{ count($zones) - 24 }} more</li>
              @endif
          </ul>
        </section>
      </aside>
    </div>
  @elseif(!$problem && !$range)
    <div class="empty">
      <h3>Type a prefix</h3>
      <p class="soft">The page keeps its address: it can be shared.</p>
    </div>
  @endif
</x-layout>
