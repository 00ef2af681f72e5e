{{-- A subnet as its runs, to scale. $net, $runs --}}
@php
  $bits = $net->family()->bits() - $net->length;
  $size = 2.0 ** $bits;
  $at = fn($a) => 100 *
      (float) (string) $a->minus($net->first)->toBigDecimal()->dividedBy((string) $net->size(), 9, \Brick\Math\RoundingMode::HALF_UP);
  $joined = [];
  foreach ($runs as $r) {
      $x = $at($r->range->first);
      $w = 100 * (float) (string) $r->range->size()->toBigDecimal()->dividedBy((string) $net->size(), 9, \Brick\Math\RoundingMode::HALF_UP);
      $end = count($joined) - 1;
      // Runs too small to see are joined into one drawn run; the table lists each.
      $touches = $end > -1 && $joined[$end]['mixed'] && $x - $joined[$end]['x'] - $joined[$end]['w'] < 0.001;
      if ($w < 0.5 && $touches) {
          $joined[$end]['w'] += $w;
          $joined[$end]['n']++;
          $joined[$end]['last'] = $r;
      } else {
          $joined[] = ['x' => $x, 'w' => $w, 'r' => $r, 'n' => 1, 'mixed' => $w < 0.5, 'last' => $r];
      }
  }
  $six = $net->family()->value === 6 && $bits > 20;
@endphp
@unless ($six)
  <section class="panel chart" aria-label="Runs of {{ $net }}, to scale; the table below says the same">
    <svg class="strip" height="96" role="group">
      @foreach ([0, 25, 50, 75] as $q)
        <text class="mono" x="{{ $q }}%" dx="5"
          y="12">{{ $bits >= 2 ? $net->first->plus((string) $net->size()->multipliedBy($q)->quotient(100)) : ($q === 0 ? $net->first : '') }}</text>
      @endforeach
      @foreach (range(0, 14, 2) as $i)
        <rect class="bar" x="{{ $i * 6.25 }}%" y="16" width="6.25%" height="6" />
      @endforeach
      <rect class="box" y="16" width="100%" height="6" />
      <svg class="lane" y="22" height="72" width="100%">
        @foreach ($joined as $j)
          @php
            $r = $j['r'];
            $room = $j['w'] * 11.3;
            $level = $r->range->size()->getBitLength() < 40 ? (100 * $r->inUse) / max(1, $r->range->size()->toInt()) : 0;
          @endphp
          <svg x="{{ $j['x'] }}%" width="{{ max($j['w'], 0.12) }}%"
            class="{{ $r->kind->isFree() && !$j['mixed'] ? 'open-water' : ($r->kind->value === 'held' || $r->kind->value === 'excluded' ? 'hatched' : '') }}">
            <title>{{ $j['n'] > 1 ? $j['n'] . ' small runs from ' . $r->range->first . ' to ' . $j['last']->range->last : $r->range . ' ' . $r->kind->label() }}
            </title>
            @if ($j['n'] > 1)
              <rect class="water" width="100%" height="100%" />
              <rect class="layers" width="100%" height="100%" />
              <rect class="outline" />
              @if ($room > 60)
                <text class="mid" x="50%" y="40">{{ $j['n'] }} runs</text>
              @endif
            @elseif(in_array($r->kind->value, ['network', 'broadcast', 'anycast']))
              <rect class="ends" width="100%" height="100%" />
            @elseif($r->kind->isFree())
              <rect class="waves" width="100%" height="100%" />
              @if ($room > 60)
                <text class="it mid" x="50%" y="40">open</text>
              @endif
            @else
              @if (in_array($r->kind->value, ['held', 'excluded']))
                <rect class="cross" width="100%" height="100%" />
              @else
                <rect class="water" y="{{ 100 - $level }}%" width="100%" height="{{ $level }}%" />
                @if ($r->kind->value === 'dynamic')
                  <line class="level" x2="100%" y1="{{ 100 - $level }}%" y2="{{ 100 - $level }}%" />
                @endif
              @endif
              <rect class="outline" />
              @if ($room > 110)
                <text class="nm" x="9" y="20">{{ ucfirst($r->kind->label()) }}</text>
                @if ($room > 200)
                  <text class="mono sub" x="9" y="36">{{ $r->range }}</text>
                @endif
                <text x="9" y="{{ abs(100 - $level - 83) < 12 ? 52 : 62 }}">{{ number_format($r->inUse) }} of
                  {{ \App\View\Words::many($r->range->size()) }}</text>
              @elseif($room > 34)
                <text class="mid" x="50%" y="40">{{ $r->inUse }}</text>
              @endif
            @endif
          </svg>
        @endforeach
      </svg>
    </svg>
  </section>
@else
  <section class="panel chart" aria-label="Runs in order"><svg class="strip" height="84" role="group">
      <text class="sub" x="0" dx="5" y="12">in order, scale broken: a /{{ $net->length }} holds 2^{{ $bits }} addresses; each run
        is drawn as wide as the other</text>
      <path class="tickline" d="M0 19h18l4-5 6 10 4-5h9999" />
      <svg class="lane" y="26" height="54" width="100%">
        @foreach (array_slice($runs, 0, 12) as $i => $r)
          @php
            $w = 100 / min(12, count($runs));
          @endphp
          <svg x="{{ $i * $w }}%" width="{{ $w }}%" class="{{ $r->kind->isFree() ? 'open-water' : '' }}">
            <title>{{ $r->range }} {{ $r->kind->label() }}</title>
            @if ($r->kind->isFree())
              <rect class="waves" width="100%" height="100%" />
            @else
              <rect class="water" width="100%" height="100%" />
              <rect class="outline" />
            @endif
            <text class="mid @if ($r->kind->isFree()) it @else nm @endif" x="50%"
              y="24">{{ $r->kind->isFree() ? 'open' : Str::limit($r->kind->label(), 14, '…') }}</text><text class="mid sub" x="50%"
              y="40">{{ $r->inUse ?: '' }}</text>
          </svg>
        @endforeach
      </svg>
    </svg></section>
@endunless
