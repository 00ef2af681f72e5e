@props(['list', 'what'])
{{-- Where one stands in a list, and the way on and back. --}}
@php
  $to = fn(int $page): string => request()->fullUrlWithQuery(['page' => $page === 1 ? null : $page]);
@endphp
<nav class="bar-line pages" aria-label="Pages of {{ $what }}">
  <span class="soft">{{ number_format($list->from()) }} to {{ number_format($list->to()) }} of
    {{ $list->more ? 'more than ' : '' }}{{ number_format($list->total) }}
    {{ $list->total === 1 ? Str::singular($what) : $what }}</span>
  <span class="end row">
    @if ($list->page > 1)
      <a class="btn small" rel="prev" href="{{ $to($list->page - 1) }}">Back</a>
    @endif
    @if ($list->pages > 1)
      <span class="soft">page {{ $list->page }} of {{ $list->pages }}</span>
    @endif
    @if ($list->page < $list->pages)
      <a class="btn small" rel="next" href="{{ $to($list->page + 1) }}">On</a>
    @endif
  </span>
</nav>
