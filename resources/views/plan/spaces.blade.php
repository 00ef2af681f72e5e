@if (count($spaces) > 1 || auth()->user()->does(\App\Models\Role::Planner))
  <nav class="row" aria-label="Spaces">
    <span class="oneof">
      @foreach ($spaces as $id => $name)
        <a href="/plan/{{ $id }}" @if ($id === $current->id) aria-current="true" @endif>{{ $name }}</a>
      @endforeach
    </span>
    @if (auth()->user()->does(\App\Models\Role::Planner))
      <span class="end row"><a class="btn small" href="/plan/{{ $current->id }}/planner">Planner</a>
        <a class="btn small" href="/plan/{{ $current->id }}/scans">Scans</a>
        <a class="btn small" href="/plan/summary">Summaries</a>
        <a class="btn small" href="/plan/calculator">Calculator</a>
        <a class="btn small" href="/plan/{{ $current->id }}?top=1">Add a top prefix</a>
        <a class="btn small" href="/import?kind=plan&amp;target={{ $current->id }}">Import</a>
        <a class="btn small" href="/plan/{{ $current->id }}/export.csv">CSV</a>
        <a class="btn small" href="/plan/{{ $current->id }}/export.json">JSON</a></span>
    @endif
  </nav>
@endif
