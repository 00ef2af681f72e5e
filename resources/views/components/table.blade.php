@props(['label'])
{{-- A table that scrolls sideways by itself where it is wider than its place, by keys too. --}}
<div class="scroll-x" tabindex="0" role="region" aria-label="{{ $label }}">
  <table {{ $attributes }}>
    {{ $slot }}
  </table>
</div>
