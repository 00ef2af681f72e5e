@props(['title'])
{{-- What stands where a list would, and what to do about it. --}}
<div class="empty">
  <h3>{{ $title }}</h3>
  <p class="soft">{{ $slot }}</p>
</div>
