@php
  $page = "/lease/scope/$scope->id";
  $six = $scope->prefix->family === 6;
  $inrow = $reserve ? $scope->reservations->firstWhere('id', request('edit')) : null;
  $then = $inrow ? $scope->reservations->get($scope->reservations->search($inrow) + 1) : null;
@endphp
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
  @if ($scope->reservations->isEmpty() && !$reserve)
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
          @if ($reserve)
            <th class="act"></th>
          @endif
        </tr>
      </thead>
      <tbody>
        @foreach ($scope->reservations as $r)
          <tr @class(['drafted' => isset($touched["reservation:$r->id"]), 'editing' => $inrow?->is($r)]) data-row="{{ $r->id }}"
            title="{{ $touched["reservation:$r->id"] ?? '' }}">
            @if ($reserve)
              <td class="pickcell">
                <input type="checkbox" class="pick" form="cutres" name="reservations[]" value="{{ $r->id }}"
                  aria-label="Pick {{ $r->given() }}">
              </td>
            @endif
            @if ($inrow?->is($r))
              <td><x-field bare form="changeres" name="address" label="Address" mono :value="$r->given()" /></td>
              <td><x-field bare form="changeres" name="mac" label="Client" mono :value="$r->client()" autofocus /></td>
              <td><x-field bare form="changeres" name="name" label="Name" :value="$r->name" /></td>
            @else
              <td class="mono">{{ $r->given() }}</td>
              <td class="mono">{{ $r->client() }}</td>
              <td>{{ $r->name }}</td>
            @endif
            <td class="num">
              @if ($may)
                <a href="/lease/options/reservation/{{ $r->id }}">{{ $r->optionValues->count() ?: 'none' }}</a>
              @else
                {{ $r->optionValues->count() ?: '' }}
              @endif
            </td>
            @if ($reserve)
              <td class="act">
                @if ($inrow?->is($r))
                  <a href="{{ $page }}" data-leave>Leave</a>
                @else
                  <a href="{{ $page }}?edit={{ $r->id }}" data-inrow aria-label="Edit {{ $r->given() }}">Edit</a>
                @endif
              </td>
            @endif
          </tr>
        @endforeach
      </tbody>
      @if ($reserve && !$inrow)
        <tfoot>
          <tr class="addrow">
            <td></td>
            <td>
              <x-field bare form="reserve" name="address" label="Address of a new reservation" mono
                :placeholder="$six ? 'address, or prefix/length' : 'address'" />
            </td>
            <td>
              <x-field bare form="reserve" name="mac" label="Client of a new reservation" mono
                :placeholder="$six ? 'DUID; “iaid 7” for one number' : 'MAC, or client identifier as 0x…'" />
            </td>
            <td>
              <x-field bare form="reserve" name="name" label="Name of a new reservation" placeholder="name" />
            </td>
            <td></td>
            <td><button class="btn small" form="reserve" name="then" value="preview">Reserve</button></td>
          </tr>
        </tfoot>
      @endif
    </x-table>
  @endif
  @if ($reserve && $inrow)
    <x-act id="changeres" action="change-reservation" :seen="['reservation:' . $inrow->id => $inrow->version]" :stay="$page" data-inrow
      :data-next="$then ? $page . '?edit=' . $then->id : $page">
      <input type="hidden" name="reservation" value="{{ $inrow->id }}">
    </x-act>
  @elseif($reserve)
    <x-act id="reserve" action="add-reservation" :stay="$page . '#addrow'" :data-next="$page . '#addrow'" data-inrow hidden>
      <input type="hidden" name="scope" value="{{ $scope->id }}">
    </x-act>
  @endif
</section>
