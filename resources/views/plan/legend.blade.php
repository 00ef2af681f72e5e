<div class="keys end">
  @foreach (['planned', 'live', 'retiring', 'withheld', 'open'] as $stage)
    <span class="key @if ($stage === 'open') open @endif">{{ \App\View\Draw::swatch($stage) }}{{ $stage }}</span>
  @endforeach
</div>
