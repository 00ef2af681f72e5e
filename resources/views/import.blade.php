<x-layout title="Import" :verb="$kind === 'zone' ? 'name' : 'plan'">
  <header class="title">
    <h1>Import</h1>
    <span class="soft">a file is read and judged row by row; nothing is written before you say so</span>
  </header>
  <div class="split two">
    <section class="panel">
      <header>
        <h2>Recent imports</h2>
      </header>
      @if ($recent->isEmpty())
        <p class="pad open">none yet</p>
      @else
        <x-table label="Recent imports" data-worktable>
          <thead>
            <tr>
              <th>File</th>
              <th>Kind</th>
              <th>State</th>
              <th class="num">Rows</th>
              <th>When</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($recent as $r)
              <tr>
                <td class="name"><a href="{{ at('import.one', $r->id) }}">{{ $r->file_name }}</a></td>
                <td>{{ $r->kind === 'plan' ? 'address plan' : 'zone file' }}</td>
                <td>{{ $r->state->value }}</td>
                <td class="num">{{ number_format(array_sum($r->counts)) }}</td>
                <td>{{ $r->started_at->diffForHumans() }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      @endif
    </section>
    <div class="side">
      @if ($planner)
        <section class="panel">
          <header>
            <h2>Address plan, CSV or JSON</h2>
          </header>
          <form class="form pad" method="post" action="{{ at('import') }}" enctype="multipart/form-data">@csrf
            <input type="hidden" name="kind" value="plan">
            <div class="field"><span><label for="space">Into the space</label></span>
              <select id="space" name="target">
                @foreach ($choices->spaces() as $id => $n)
                  <option value="{{ $id }}" @selected($id === $target)>{{ $n }}</option>
                @endforeach
              </select>
            </div>
            <div class="field"><span><label for="f1">File</label></span><input id="f1" type="file" name="file" required></div>
            <p class="hint">The first line names the columns: prefix, kind, stage, name, site, vlan, gateway, description, role, tenant, tags, origin;
              for hosts address, name, mac, role, owner, interface. JSON is a list of objects with these keys.</p>
            <button class="btn @if ($kind === 'plan') main @endif">Read it</button>
          </form>
        </section>
      @else
        <section class="panel pad-all"><span class="soft">Planners take plans in; zone files are yours.</span></section>
      @endif
      <section class="panel">
        <header>
          <h2>Zone file, RFC 1035</h2>
        </header>
        <form class="form pad" method="post" action="{{ at('import') }}" enctype="multipart/form-data">@csrf
          <input type="hidden" name="kind" value="zone">
          <div class="field"><span><label for="zone">Into the zone</label></span>
            <select id="zone" name="target">
              @foreach ($choices->zones(false) as $id => $n)
                <option value="{{ $id }}" @selected($id === $target)>{{ $n }}</option>
              @endforeach
            </select>
          </div>
          <div class="field"><span><label for="f2">File</label></span><input id="f2" type="file" name="file" required></div>
          <div class="field"><span><label for="f3">Files that it includes</label></span><input id="f3" type="file" name="more[]"
              multiple><span class="hint">$INCLUDE reads these and nothing else</span></div>
          <button class="btn @if ($kind === 'zone') main @endif">Read it</button>
        </form>
      </section>
    </div>
  </div>
</x-layout>
