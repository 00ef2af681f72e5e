{{-- One edit of a draft: $row of $sheet; $moves: it may be moved, amended and taken out here; $first, $last of all of them; decides, said. --}}
@php
  $at = at('ship.draft.edit', $sheet->draft->id, $row['edit']->id);
@endphp
<li @class(['conflict' => $row['conflicts'] !== []])>
  <div class="edit-head">
    <span class="num">{{ $row['number'] }}</span>
    <span class="grow">
      <b>{{ $row['edit']->title }}</b>
      @if ($row['places'] !== '')
        <span class="soft">{{ $row['places'] }}</span>
      @endif
      @if ($row['edit']->person)
        <span class="hint">by {{ $row['edit']->person->name }}</span>
      @endif
    </span>
    @if ($row['conflicts'] !== [])
      <span class="warn">@mark('warn') changed meanwhile</span>
    @elseif ($row['block'])
      <span class="stopped">@mark('stop') does not hold</span>
    @elseif ($sheet->outcome && !$row['reached'])
      <span class="open">not reached</span>
    @elseif ($row['warned'] > 0)
      <span class="warn">@mark('warn') {{ $row['warned'] }} warned</span>
    @elseif ($row['reached'])
      <span class="soft">{{ number_format($row['rows']) }} {{ Str::plural('row', $row['rows']) }}</span>
    @endif
    @if ($moves)
      <form method="post" action="{{ $at }}" class="row tight">
        @csrf
        <button class="btn small square" name="what" value="earlier" @disabled($first)
          aria-label="Move edit {{ $row['number'] }} earlier" title="Earlier">↑</button>
        <button class="btn small square" name="what" value="later" @disabled($last)
          aria-label="Move edit {{ $row['number'] }} later" title="Later">↓</button>
        <a class="btn small" href="{{ $at }}" aria-label="Amend edit {{ $row['number'] }}">Amend</a>
        <button class="btn small" name="what" value="out" aria-label="Take out edit {{ $row['number'] }}">Remove from the draft</button>
      </form>
    @endif
  </div>
  @if ($row['block'] && $row['conflicts'] === [])
    <p class="wrong">@mark('stop')<span><b>{{ rtrim($row['block']->message, '.') }}.</b> {{ $row['block']->why }}
        @if ($row['block']->link)
          <a href="{{ $row['block']->link }}">Show it</a>
        @endif
      </span></p>
  @endif
  @if ($row['lines'] !== [])
    <div class="scroll-x" tabindex="0" role="region" aria-label="What edit {{ $row['number'] }} writes">
      <table class="changes">
        <colgroup>
          <col class="of">
          <col span="3">
        </colgroup>
        <thead @class(['sr' => !$first])>
          <tr>
            <th>Object</th>
            <th>What</th>
            <th>Was</th>
            <th>Will be</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($row['lines'] as $line)
            <tr>
              <td class="name">{{ $line['object'] }}
                @if ($line['home'] !== '')
                  <span class="hint">{{ $line['home'] }}</span>
                @endif
              </td>
              @if ($line['op'] === 'turn')
                <td>{{ $line['what'] }}</td>
                <td class="wrap"><span class="struck">{{ $line['was'] }}</span></td>
                <td class="wrap">{{ $line['will'] }}</td>
              @else
                <td colspan="3">@mark($line['op'], $line['mark']) {{ $line['what'] }} {{ $line['mark'] }}</td>
              @endif
            </tr>
          @endforeach
        </tbody>
      </table>
    </div>
    @if ($row['more'] > 0)
      <p class="hint">and {{ number_format($row['more']) }} more {{ $row['more'] === 1 ? 'row' : 'rows' }}</p>
    @endif
  @endif
  @foreach ($row['conflicts'] as $c)
    @include('ship.conflict')
  @endforeach
  @foreach ($said->where('edit_id', $row['edit']->id) as $r)
    <p class="remark"><b>{{ $r->person->name }}</b> <span class="hint">{{ $r->at->diffForHumans() }}</span> {{ $r->text }}</p>
  @endforeach
  <details>
    <summary class="hint">Say something of this edit</summary>
    <form method="post" action="{{ at('ship.draft.remark', $sheet->draft->id) }}" class="row">
      @csrf
      <input type="hidden" name="edit" value="{{ $row['edit']->id }}">
      <input name="text" maxlength="2000" required aria-label="Remark on edit {{ $row['number'] }}" class="grow">
      <button class="btn small">Say it</button>
    </form>
  </details>
</li>
