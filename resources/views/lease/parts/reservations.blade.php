<section class="panel">
  <header>
    <h2>Reservations</h2>
    <span class="soft">{{ $scope->reservations->count() }}</span>
    @if ($reserve)
      <span class="end row" data-needs-pick hidden>
        <form id="cutres" method="post" action="/act/remove-reservations" hx-post="/act/remove-reservations" hx-target="#follows-reserve">
          @csrf
          <input type="hidden" name="_form" value="cutres">
          <input type="hidden" name="scope" value="{{ $scope->id }}">
          <button class="btn stop small" name="then" value="preview">Remove <span data-picked>0</span></button>
        </form>
      </span>
    @endif
  </header>
  @if ($scope->reservations->isEmpty())
    <p class="pad open">none</p>
  @else
    <x-table label="Reservations" data-worktable>
      <thead>
        <tr>
          @if ($reserve)
            <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
          @endif
          <th>Address</th>
          <th>Client</th>
          <th>Name</th>
          <th class="num">Own options</th>
        </tr>
      </thead>
      <tbody>
        @foreach ($scope->reservations as $r)
          <tr @class(['drafted' => isset($touched["reservation:$r->id"])]) title="{{ $touched["reservation:$r->id"] ?? '' }}">
            @if ($reserve)
              <td class="pickcell">
                <input type="checkbox" class="pick" form="cutres" name="reservations[]" value="{{ $r->id }}"
                  aria-label="Pick {{ $r->given() }}">
              </td>
            @endif
            <td class="mono">{{ $r->given() }}</td>
            <td class="mono">{{ $r->client() }}</td>
            <td>{{ $r->name }}</td>
            <td class="num">
              @if ($may)
                <a href="/lease/options/reservation/{{ $r->id }}">{{ $r->optionValues->count() ?: 'none' }}</a>
              @else
                {{ $r->optionValues->count() ?: '' }}
              @endif
            </td>
          </tr>
        @endforeach
      </tbody>
    </x-table>
  @endif
</section>
