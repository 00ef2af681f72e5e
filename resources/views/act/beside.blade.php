{{-- Theirs beside mine: what somebody wrote since the form was opened, and what the form would write on top of it. --}}
@php
  $who = $one['who'] === [] || auth()->user()->isBound() ? 'Somebody' : implode(' and ', $one['who']);
@endphp
<section class="beside" aria-label="Theirs beside yours: {{ $one['line'] }}">
  <p>
    {{ $who }} saved <b>{{ $one['line'] }}</b>
    @if ($one['at'])
      <time datetime="{{ $one['at']->format('c') }}">{{ Carbon\CarbonImmutable::instance($one['at'])->diffForHumans() }}</time>
    @endif
  </p>
  @foreach ($one['rows'] as $row)
    <dl>
      <dt>{{ $called->column($row['column']) }}</dt>
      @if ($row['theirs'] !== $row['saw'])
        <dd><span class="soft">you saw</span>
          <span>{{ $called->value($row['column'], $row['saw']) }}</span>
        </dd>
      @endif
      <dd @class(['differs' => $row['theirs'] !== $row['saw']])>
        <span class="soft">{{ $row['theirs'] === $row['saw'] ? 'untouched' : 'theirs' }}</span>
        <span>{{ $called->value($row['column'], $row['theirs']) }}</span>
        @if ($row['into'])
          <button type="button" class="btn small" data-offer="{{ $row['theirs'] }}" data-into="{{ $row['into'] }}">Take it</button>
        @endif
      </dd>
      <dd @class(['differs' => $row['mine'] !== $row['theirs']])>
        <span class="soft">yours</span>
        <span>{{ $row['mine'] === $row['theirs'] ? 'leaves it so' : $called->value($row['column'], $row['mine']) }}</span>
      </dd>
    </dl>
  @endforeach
  @if ($one['parts'] !== [])
    <ul class="lines">
      @foreach ($one['parts'] as $part)
        <li>{{ $part }}</li>
      @endforeach
    </ul>
  @endif
  <label class="tick">
    <input type="checkbox" name="over[{{ $one['object'] }}]" value="{{ $one['version'] }}" form="{{ $form }}">
    Seen: write yours on top
  </label>
</section>
