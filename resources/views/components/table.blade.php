@props(['label'])
{{-- A table that scrolls sideways by itself where it is wider than its place, by keys too. Of one that is worked in columns are chosen. --}}
@php
  $heads = $attributes->has('data-worktable') ? \App\View\Heads::of((string) $slot, Str::slug($label), auth()->user()) : null;
@endphp
@if ($heads?->mayChoose())
  <div class="tablebox">
@endif
<div class="scroll-x" tabindex="0" role="region" aria-label="{{ $label }}">
  <table {{ $attributes }} @if ($heads?->hidden() !== null && $heads->hidden() !== '') data-hide="{{ $heads->hidden() }}" @endif>
    {{ $slot }}
  </table>
</div>
@if ($heads?->mayChoose())
    <details class="columns">
      <summary @class(['some' => $heads->away !== []]) title="{{ $heads->words() }}" aria-label="{{ $heads->words() }}, {{ $label }}">
        <svg viewBox="0 0 14 14" width="14" height="14" aria-hidden="true">
          <rect x="1" y="2" width="3" height="10" />
          <rect x="5.5" y="2" width="3" height="10" />
          <rect x="10" y="2" width="3" height="10" />
        </svg>
      </summary>
      <form method="post" action="{{ at('act', 'set-table') }}" class="form pad">
        @csrf
        <input type="hidden" name="then" value="commit">
        <input type="hidden" name="stay" value="{{ request()->getRequestUri() }}">
        <input type="hidden" name="table" value="{{ $heads->table }}">
        @foreach ($heads->choices() as $head)
          <input type="hidden" name="columns[]" value="{{ $head }}">
          <label class="tick"><input type="checkbox" name="show[]" value="{{ $head }}" @checked(!in_array($head, $heads->away, true))>{{ $head }}</label>
        @endforeach
        <label class="tick"><input type="checkbox" name="dense" value="1" @checked(auth()->user()?->tables['dense'] ?? false)>rows close together,
          in all tables</label>
        <button class="btn small">Keep</button>
      </form>
    </details>
  </div>
@endif
