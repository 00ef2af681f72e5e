@props(['at', 'value' => '', 'hint' => '', 'words' => [], 'misread' => [], 'keep' => []])
{{-- A filter typed as words: which there are stands below it as one types, and what was not understood is said. --}}
<div class="bar-line">
  <form class="find" action="{{ $at }}" role="search">
    <label class="sr" for="filter">Filter</label>
    <svg viewBox="0 0 16 16" fill="none" stroke="currentColor" stroke-width="1.5" aria-hidden="true">
      <circle cx="7" cy="7" r="4.5" />
      <path d="m10.5 10.5 4 4" />
    </svg>
    <input type="search" id="filter" name="filter" value="{{ $value }}" placeholder="{{ $hint }}" autocomplete="off" spellcheck="false"
      @if ($words) list="filter-words" @endif>
    @if ($words)
      <datalist id="filter-words">
        @foreach ($words as $word => $means)
          <option value="{{ $word }}">{{ $means }}</option>
        @endforeach
      </datalist>
    @endif
    @foreach ($keep as $name => $kept)
      @if ($kept !== null && $kept !== '')
        <input type="hidden" name="{{ $name }}" value="{{ $kept }}">
      @endif
    @endforeach
    <kbd aria-hidden="true">f</kbd>
  </form>
  {{ $slot }}
</div>
@foreach ($misread as $line)
  <p class="notice" role="status">@mark('warn')<span class="grow">{{ $line }}</span></p>
@endforeach
