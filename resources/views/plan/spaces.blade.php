@if (count($spaces) > 1 || auth()->user()->does(\App\Models\Role::Planner))
  <nav class="row" aria-label="Spaces">
    <span class="oneof">
      @foreach ($spaces as $id => $name)
        <a href="{{ at('plan.space', $id) }}" @if ($id === $current->id) aria-current="true" @endif>{{ $name }}</a>
      @endforeach
    </span>
    @if (auth()->user()->does(\App\Models\Role::Planner))
      <span class="end row"><a class="btn small" href="{{ at('plan.space.planner', $current->id) }}">Planner</a>
        <a class="btn small" href="{{ at('plan.space.scans', $current->id) }}">Scans</a>
        <a class="btn small" href="{{ at('plan.summary') }}">Summaries</a>
        <a class="btn small" href="{{ at('plan.calculator') }}">Calculator</a>
        <a class="btn small" href="{{ at('plan.space', $current->id) }}?top=1">Add a top prefix</a>
        <a class="btn small" href="{{ at('import') }}?kind=plan&amp;target={{ $current->id }}">Import</a>
        <a class="btn small" href="{{ at('plan.space.export.csv', $current->id) }}">CSV</a>
        <a class="btn small" href="{{ at('plan.space.export.json', $current->id) }}">JSON</a></span>
    @endif
  </nav>
@endif
