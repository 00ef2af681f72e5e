<x-gate :title="$head">
  <h1>{{ $head }}</h1>
  <p>{{ $says }}</p>
  <p class="soft">Answer {{ $code }}, {{ now()->format('j M H:i:s') }} UTC.</p>
  <p><a class="btn main" href="{{ $to }}" data-key="main">{{ $label }}</a></p>
</x-gate>
