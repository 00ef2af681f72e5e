{{-- Where a change goes, in order. Wants stops. --}}
@if ($stops !== [])
  <section class="panel">
    <header>
      <h2>Where it goes</h2>
      <span class="soft">once it is true</span>
      <span class="end row"><a class="btn small" href="{{ at('ship.times') }}">Times</a></span>
    </header>
    <x-table label="Where it goes">
      <thead>
        <tr>
          <th>Server</th>
          <th>Brings</th>
          <th>Shipped</th>
          <th>After</th>
        </tr>
      </thead>
      <tbody>
        @foreach ($stops as $stop)
          <tr>
            <td class="name"><a href="{{ at('ship.server', $stop['server']->id) }}">{{ $stop['server']->name }}</a></td>
            <td>{{ $stop['what'] }}</td>
            <td>{{ $stop['when'] }}</td>
            <td>{{ $stop['after'] === '' ? 'nothing' : $stop['after'] }}</td>
          </tr>
        @endforeach
      </tbody>
    </x-table>
  </section>
@endif
