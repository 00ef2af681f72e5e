<x-layout title="The way back" verb="watch" work="back" does="take it back">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('watch') }}">History</a></li>
      <li aria-current="page">The way back</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $title }}</h1>
    <span class="soft">{{ number_format($rows->count()) }} {{ Str::plural('row', $rows->count()) }} of the plan, computed from the history</span>
  </header>
  <div class="split two">
    <section class="panel">
      <header>
        <h2>What it wrote</h2>
        <span class="soft">the last first, as it goes back</span>
      </header>
      @if ($rows->isEmpty())
        <x-empty title="Nothing of the plan">That change wrote nothing that could be taken back.</x-empty>
      @else
        <x-table label="What it wrote">
          <thead>
            <tr>
              <th>Object</th>
              <th>Was</th>
              <th>Goes back to</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($rows->take(100) as $row)
              <tr @class(['drafted' => isset($stays[$row->object()])])>
                <td class="wrap">{{ $row->noun }} <a href="{{ at('watch') }}?object={{ $row->id }}">{{ $row->title }}</a></td>
                <td>{{ $row->before === null ? 'made' : ($row->after === null ? 'removed' : 'changed') }}</td>
                <td>
                  @if (isset($stays[$row->object()]))
                    @mark('warn') stays as it is
                  @else
                    {{ $row->before === null ? 'not there' : 'as it was' }}
                  @endif
                </td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
        @if ($rows->count() > 100)
          <p class="hint pad">and {{ number_format($rows->count() - 100) }} more</p>
        @endif
      @endif
    </section>
    <div class="side">
      <section class="panel">
        <header>
          <h2>What stays</h2>
          @if ($stays !== [])
            <span class="warn">@mark('warn') {{ count($stays) }} {{ count($stays) === 1 ? 'object stays' : 'objects stay' }}</span>
          @endif
        </header>
        <div class="pad">
          <x-act id="back" action="take-back" data-look data-unseen>
            @foreach ($acts as $act)
              <input type="hidden" name="acts[]" value="{{ $act }}">
            @endforeach
            @forelse ($stays as $object => $note)
              <label class="tick"><input type="checkbox" name="leave[]" value="{{ $object }}" checked>
                <span><b>{{ rtrim($note->message, '.') }}.</b> {{ $note->why }}
                  @if ($note->link)
                    <a href="{{ $note->link }}">Show it</a>
                  @endif
                </span></label>
            @empty
              <p>@mark('ok') Nobody changed any of it since: all of it goes back.</p>
            @endforelse
            @if ($stays !== [])
              <p class="hint">What is ticked stays as it is; the rest goes back.</p>
            @endif
          </x-act>
        </div>
      </section>
      <x-follows-slot form="back" />
    </div>
  </div>
</x-layout>
