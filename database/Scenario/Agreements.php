<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Directory\KeepGrant;
use App\Acts\Directory\KeepTeam;
use App\Acts\Directory\MakeRule;
use App\Acts\Drafts\DecideDraft;
use App\Acts\Drafts\Drafts;
use App\Acts\Drafts\EndDraft;
use App\Acts\Drafts\KeepEdit;
use App\Acts\Drafts\RemarkDraft;
use App\Acts\Drafts\ShareDraft;
use App\Acts\Drafts\StartDraft;
use App\Acts\Drafts\SubmitDraft;
use App\Acts\Drafts\TimeDraft;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Lease\ChangeScope;
use App\Acts\Lease\SetOption;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Ship\KeepFreeze;
use App\Acts\Ship\KeepWindow;
use App\Acts\Ship\SetShipping;
use App\Models\Draft;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\Stage;
use App\Models\Zone;

/** Rules of agreement, and drafts that wait for tobin: one that holds, one in which somebody changed a subnet meanwhile, one he refused. */
final readonly class Agreements
{
    public function __construct(private Acts $acts, private Kittiwake $k)
    {
    }

    public function load(): void
    {
        $maren = Person::query()->where('sign_in', 'maren')->firstOrFail();
        $ilke = Person::query()->where('sign_in', 'ilke')->firstOrFail();
        $tobin = Person::query()->where('sign_in', 'tobin')->firstOrFail();
        $this->rules();
        $this->grants();
        $zone = Zone::query()->where('name', 'retail.kittiwake.example.')->first();
        if ($zone !== null) {
            $refused = $this->draft($ilke, 'A kiosk for the fair', 'Only for the fair in June.', [
                new AddRecord($zone->id, 'A', '10.36.16.21', '', 'fair', '3600'),
            ]);
            $this->acts->commit(
                $tobin,
                [new DecideDraft($refused->id, false, 'The fair is over by then; take a name that lapses.', $refused->digest())],
            );
        }
        $this->waiting($maren, $tobin);
        $this->inConflict($maren);
        $this->times($maren, $ilke);
    }

    private function rules(): void
    {
        $who = static fn (string ...$names): array => array_values(
            array_map(strval(...), Person::query()->whereIn('sign_in', $names)->pluck('id')->all()),
        );
        $this->k->do(
            new KeepTeam('Quay watch', $this->k->id('team quay'), $who('tobin', 'maren', 'ilke'), 'who is called when a pier is dark'),
            new KeepTeam('Change board', $this->k->id('team board'), $who('tobin', 'sable'), 'meets on Thursdays'),
            new MakeRule('removes', 1, $this->k->id('rule zone'), noun: 'zone'),
            new MakeRule('rows', 1, $this->k->id('rule rows'), rows: 500),
        );
    }

    /** A part of the plan that is lent to the harbour office, and a team that works at one pier for some weeks. */
    private function grants(): void
    {
        $core = $this->k->id('space Core');
        $top = Prefix::query()->where('space_id', $core)->where('length', 12)->where('groups', true)->firstOrFail();
        $lent = $this->k->id('net lent');
        $this->k->do(new CarvePrefix(
            space: $core, id: $lent, in: $top->id, length: 20, kind: 'supernet', stage: 'live', name: 'Lent to the harbour office',
            tenant: $this->k->id('tenant Harbour Authority'),
        ));
        $net = Prefix::query()->findOrFail($lent)->prefix();
        $this->k->do(
            new CarvePrefix(space: $core, in: $lent, id: $this->k->id('net radar'), length: 26, stage: 'live', name: 'Radar masts',
                gateway: 'first'),
            new KeepGrant(['space', 'leases'], "prefix $net in Core", $this->k->id('person quill'), '', '', 'plans what was lent to them',
                $this->k->id('grant lent')),
            new KeepGrant(['hosts'], 'site Tarbeck', '', $this->k->id('team quay'), now()->addDays(24)->format('Y-m-d 18:00'),
                'new gates at the pier', $this->k->id('grant quay')),
        );
    }

    private function waiting(Person $maren, Person $tobin): void
    {
        $scopes = Scope::query()->where('name', 'like', 'Ticketing,%')->where('stage', Stage::Live)
            ->whereHas('prefix', fn ($p) => $p->where('family', 4))->orderBy('name')->pluck('id')->all();
        $three = array_values(array_map(strval(...), array_slice($scopes, 0, 3)));
        $why = 'The kiosks are moved in May; their addresses have to come free the same day.';
        $acts = array_map(static fn (string $id): Act => new ChangeScope($id, leaseTime: '2h'), $three);
        $acts[] = new SetOption(code: 42, value: '10.36.0.123 10.32.0.123', scopes: $three);
        $draft = $this->draft($maren, 'Shorter leases for ticketing', $why, $acts);
        $edit = $draft->edits->first();
        $this->acts->commit(
            $tobin,
            [new RemarkDraft($draft->id, 'Is two hours enough over night, when the relay is down for the tide?', $edit?->id)],
        );
    }

    /** Windows at the piers, a freeze for the regatta, and a draft that becomes true by itself when a window opens tonight. */
    private function times(Person $maren, Person $ilke): void
    {
        $pier = $this->k->id('site Orrin Pier');
        $this->k->do(
            new KeepWindow('Night at the piers', '22:00', 90, ['1', '2', '3', '4', '5'], 'Europe/London', '', $pier,
                $this->k->id('window night')),
            new KeepWindow('Sunday morning', '05:30', 180, ['7'], 'Europe/London', '', '', $this->k->id('window sunday')),
            new KeepFreeze(
                'Regatta: nothing moves on the quays',
                now()->addDays(4)->setTime(6, 0)->format('Y-m-d H:i'),
                now()->addDays(6)->setTime(4, 0)->format('Y-m-d H:i'),
                'Europe/London',
                '',
                $pier,
                $this->k->id('freeze regatta'),
            ),
        );
        $this->k->do(new SetShipping([$this->k->id('server lamp3')], 'windows'));
        $zone = Zone::query()->where('name', 'retail.kittiwake.example.')->first();
        if ($zone === null) {
            return;
        }
        $draft = $this->draft($ilke, 'Opening hours of the kiosks', 'The shop wants them in the names, for the display boards.', [
            new AddRecord($zone->id, 'TXT', '"open 07:00-21:00"', '', 'kiosks', '3600'),
        ]);
        $outcome = $this->acts->rehearse($ilke, [...Drafts::acts($draft), new EndDraft($draft->id)], Drafts::expects($draft));
        $at = now('Europe/London')->setTime(22, 0);
        $at = $at->isPast() ? $at->addDay() : $at;
        $this->acts->commit($ilke, [new TimeDraft($draft->id, $at->format('Y-m-d H:i'), 'Europe/London', $outcome->digest())]);
        // Two hands on one draft that is still written.
        $begun = new StartDraft('Night lamps on the slipway', $this->k->id('draft lamps'));
        $this->acts->commit($maren, [$begun]);
        $this->acts->commit($maren, [new ShareDraft($begun->id, 'ilke')]);
        $this->edits($maren, [new AddRecord($zone->id, 'TXT', '"north lamp"', '', 'lamp-north', '3600')]);
    }

    private function inConflict(Person $maren): void
    {
        $subnet = Prefix::query()->where('name', 'like', 'Plant%')->where('kind', 'subnet')->where('stage', Stage::Live)->orderBy('first')
            ->first();
        if ($subnet === null) {
            return;
        }
        $this->draft(
            $maren,
            'Plant networks get their owners',
            '',
            [new ChangePrefix([$subnet->id], description: 'pumps and cranes, harbour engineers')],
        );
        $this->k->do(new ChangePrefix([$subnet->id], description: 'pumps; cranes moved out'));
    }

    /** @param  list<Act>  $acts */
    private function draft(Person $person, string $title, string $why, array $acts): Draft
    {
        $this->edits($person, $acts);
        $draft = Drafts::open($person) ?? throw new \RuntimeException("The draft \"$title\" was not kept.");
        $this->acts->commit($person, [new SubmitDraft($draft->id, $title, $why)]);

        return $draft->refresh()->load('edits');
    }

    /** @param  list<Act>  $acts */
    private function edits(Person $person, array $acts): void
    {
        foreach ($acts as $act) {
            $open = Drafts::open($person);
            $outcome = $this->acts->rehearse($person, [...Drafts::acts($open), $act], [...Drafts::expects($open), []]);
            [$expects, $touches] = Drafts::traces($outcome);
            $this->acts->commit($person, [new KeepEdit($act::key(), $act->toInput(), $expects, $touches, $act->title())]);
        }
    }
}
