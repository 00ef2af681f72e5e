{{-- Edits of a draft with what each writes and where others wrote meanwhile: in order, or by where they write.
     Wants sheet, changes (may be changed), decides, said. --}}
@php
  $ways = $sheet->ways();
  $by = isset($ways[request('by')]) ? request('by') : null;
@endphp
<section class="panel" id="edits">
  <header>
    <h2>{{ $by === null ? 'Edits, in order' : 'Edits, ' . $ways[$by] }}</h2>
    @if ($sheet->undecided > 0)
      <span class="warn">@mark('warn') {{ $sheet->undecided }} {{ $sheet->undecided === 1 ? 'needs' : 'need' }} a decision</span>
    @endif
    @if (count($sheet->rows) > 1)
      <span class="oneof end">
        <a href="{{ request()->fullUrlWithQuery(['by' => null]) }}#edits" @if ($by === null) aria-current="true" @endif>in order</a>
        @foreach ($ways as $key => $words)
          <a href="{{ request()->fullUrlWithQuery(['by' => $key]) }}#edits" @if ($by === $key) aria-current="true" @endif>{{ $words }}</a>
        @endforeach
      </span>
    @endif
  </header>
  @if ($by === null)
    <ol class="edits">
      @foreach ($sheet->rows as $row)
        @include('ship.edit', ['moves' => $changes, 'first' => $loop->first, 'last' => $loop->last])
      @endforeach
    </ol>
  @else
    @foreach ($sheet->gathered($by) as $place => $rows)
      <h3 class="pad">{{ $place === '' ? "at no $by" : $place }} <span class="soft">{{ count($rows) }}</span></h3>
      <ol class="edits">
        @foreach ($rows as $row)
          @include('ship.edit', ['moves' => false, 'first' => $loop->first, 'last' => $loop->last])
        @endforeach
      </ol>
    @endforeach
  @endif
</section>
