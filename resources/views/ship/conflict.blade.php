{{-- Three ways beside each other: as it was when the edit was made, what somebody wrote since, and what this draft writes. Wants c, at, sheet. --}}
<section class="ways" aria-label="{{ $c->line }} was changed meanwhile">
  <p>
    @mark('warn')
    @if ($c->version === null)
      <b>{{ ucfirst($c->noun) }} {{ $c->line }}</b> is gone, or not available to the author any more.
    @elseif ($c->new)
      <b>{{ ucfirst($c->noun) }} {{ $c->line }}</b> was not touched by this edit when it was made; now it would be.
    @else
      {{ $c->who === [] ? 'Somebody' : implode(' and ', $c->who) }} saved <b>{{ $c->noun }} {{ $c->line }}</b>
      @if ($c->at)
        <time datetime="{{ $c->at->format('c') }}">{{ Carbon\CarbonImmutable::instance($c->at)->diffForHumans() }}</time>
      @endif
    @endif
  </p>
  @if ($c->ways !== [])
    <div class="scroll-x" tabindex="0" role="region" aria-label="Three ways of {{ $c->line }}">
      <table class="changes">
        <colgroup>
          <col class="of">
        </colgroup>
        <thead>
          <tr>
            <th>Value</th>
            @unless ($c->new)
              <th>As it was</th>
            @endunless
            <th>{{ $c->new ? 'Now' : 'Theirs' }}</th>
            <th>This draft</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($c->ways as $way)
            <tr>
              <td>{{ $sheet->column($way['column']) }}</td>
              @unless ($c->new)
                <td class="wrap">{{ $sheet->value($way['column'], $way['was']) }}</td>
              @endunless
              <td @class(['wrap', 'differs' => $way['theirs'] !== $way['was']])>{{ $sheet->value($way['column'], $way['theirs']) }}</td>
              <td @class(['wrap', 'differs' => $way['mine'] !== $way['theirs']])>
                {{ $way['mine'] === $way['theirs'] ? 'leaves it so' : $sheet->value($way['column'], $way['mine']) }}</td>
            </tr>
          @endforeach
        </tbody>
      </table>
    </div>
  @endif
  @if ($c->parts !== [])
    <ul class="lines">
      @foreach ($c->parts as $part)
        <li>{{ $part }}</li>
      @endforeach
    </ul>
  @endif
  @if ($decides)
    <form method="post" action="{{ $at }}" class="row">
      @csrf
      <input type="hidden" name="object" value="{{ $c->object }}">
      @if ($c->version !== null)
        <input type="hidden" name="version" value="{{ $c->version }}">
        <button class="btn small" name="what" value="mine">{{ $c->clashes() ? 'Ours: write over theirs' : 'Ours: both stay' }}</button>
      @endif
      <button class="btn small" name="what" value="theirs">Theirs: leave it as it is</button>
    </form>
  @endif
</section>
