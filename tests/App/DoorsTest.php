<?php

declare(strict_types=1);

use App\Acts\Engine\Field;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Acts\Plan\PlaceHost;
use App\Acts\Registry;
use App\Models\Host;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;
use Tests\World;

/**
 * Who may come through which door: one row an act and a route. An act or a route without a row fails; so does a door that opens otherwise.
 *
 * P planner, O operator, A approver, R reader, S steward, T the admin of a tenant; all of them are signed in.
 */
const ACTS = [
    'P' => 'make-space make-site make-tenant make-domain make-vlan set-setting make-own-field change-vlan make-vlan-series '
        .'merge-vlan import-vlans change-site change-tenant change-space change-domain '
            .'keep-intent remove-intent keep-profile give-profile remove-profile '
            .'turn-outside carve-prefix change-prefix remove-prefix take-plan split-prefix merge-prefix resize-prefix '
            .'move-subnet remove-zone',
    'PO' => 'make-device change-device make-view change-view change-resolving cancel-scan take-sightings make-zone make-reverse-zones '
        .'change-zone mend-names share-records make-key remove-key serve-zone add-secondary list-secondary remove-secondary '
            .'make-scope change-scope remove-scope set-option make-class change-class remove-class keep-range set-shares '
            .'make-pair change-pair remove-pair pair-scopes make-scopes copy-scope name-leases '
            .'take-over keep-policy remove-policy sign-zone unsign-zone roll-algorithm roll-key tell-parent hand-anchor keep-audit '
            .'remove-audit '
                .'waive-finding take-notices keep-notice-rule keep-window remove-window keep-freeze end-freeze set-shipping '
                .'take-back set-probing keep-threshold remove-threshold measure-servers define-option keep-vendor-template '
            .'remove-vendor-template set-vendor-options '
                .'remove-option-definition keep-template remove-template keep-template-data drop-text',
    'POT' => 'place-host change-host release-hosts place-several change-hosts take-leases hold-run let-run-go add-record '
        .'change-record remove-records change-records paste-records undo-records add-reservation change-reservation remove-reservations '
        .'reserve-leases paste-reservations',
    'PS' => 'grant-name revoke-name',
    'OS' => 'change-server',
    'POS' => 'remove-object',
    'S' => 'make-program-token revoke-program-token keep-right-test remove-right-test make-server make-person change-person remove-person '
        .'reset-password make-rule remove-rule make-hook '
        .'keep-retention keep-team remove-team keep-role keep-grant remove-grant copy-grants keep-outside remove-outside '
        .'remove-hook',
    'POARST' => 'set-mail set-second-factor drop-second-factor keep-report remove-report set-panels make-token revoke-token set-theme '
        .'set-table change-password end-sessions mark-favourite '
        .'start-draft take-up-draft name-draft share-draft unshare-draft drop-draft',
];

/** @var array<string, string> who is let in → routes; whoever is not gets 403 or 404, a stranger the sign-in page */
const ROUTES = [
    'POARST' => 'GET: me/second-factor watch/mail watch/reports watch/reports/write watch/reports/{report} '
        .'watch/reports/{report}/table.{form} '
        .'watch/runs/{run} '
        .'/ me bridge api graph guide guide/about guide/commands guide/picture/{name} guide/{guide} pick/{kind} '
        .'plan plan/calculator plan/summary plan/vlans.{form} plan/{space} find find/quick name '
        .'lease lease/leases lease/leases/{lease} lease/bytes ship/draft ship/drafts ship/drafts/{draft} '
            .'ship/drafts/{draft}/edits/{edit} '
        .'directory directory/{list} POST: directory/sees-as/end / graph '
            .'ship/drafts/{draft}/edits/{edit} ship/drafts/{draft}/time ship/drafts/{draft}/submit ship/drafts/{draft}/reopen '
            .'ship/drafts/{draft}/remark ship/drafts/{draft}/commit directory',
    'POARS' => 'GET: plan/prefix/{prefix}/move plan/prefix/{prefix} plan/prefix/{prefix}/panel/{panel} '
        .'plan/prefix/{prefix}/print plan/prefix/{prefix}/addresses.{form} plan/{space}/export.json plan/{space}/export.csv '
            .'name/reverse name/signing name/signing/trial name/zone/{zone}/signing name/zone/{zone}/signing/parent '
            .'name/zone/{zone}/signing/chain name/take-in name/zone/{zone}/service name/zone/{zone}/drift name/resolvers '
                .'name/tree name/resolvers/{server}/hints name/resolvers/{server}/hints.zone name/sweep name/sweep/{sweep} name/views '
                    .'name/lookup name/test name/zone/{zone} name/zone/{zone}/lately name/zone/{zone}/checks '
                        .'name/zone/{zone}/timeline name/zone/{zone}/export.zone lease/exchange lease/scope/{scope} '
                            .'lease/options lease/options/{layer}/{of} lease/classes lease/coverage lease/pairs '
                            .'lease/pairs/{pair} lease/without first-steps '
                            .'lease/scope/{scope}/drift/{server} ship ship/together watch/history.{form} ship/rules ship/times '
                            .'ship/server/{server} ship/server/{server}/drift watch '
                                .'directory/settings directory/teams directory/grants directory/texts directory/texts/{template} '
                                .'directory/roles '
                                .'directory/texts/{template}/of/{object} guide/settings '
                                .'directory/reach directory/ports ship/outside ship/outside/{outside} '
                                .'directory/site/{site} directory/vlan/{vlan} '
                                .'watch/audits watch/audits/{audit} '
                                .'watch/notices watch/due watch/due.ics watch/kept '
                                .'watch/servers watch/servers/{server} watch/servers/{server}/figures.csv',
    'PO' => 'POST: directory/texts/{template}/attempt directory/texts/{template}/keep '
        .'GET: watch/back lease/scope/{scope}/names watch/audits/write plan/scan/{scan} plan/{space}/scans import import/{import} '
        .'import/{import}/refused name/keys POST: '
        .'plan/{space}/scans import import/{import}/take-over import/{import}/cancel import/{import}/columns '
            .'name/keys/{key}/secret name/take-in name/zone/{zone}/fetch/{server} name/zone/{zone}/drift name/resolvers '
                .'name/sweep name/sweep/{sweep}/cancel lease/exchange lease/pairs/{pair}/ask '
                    .'lease/pairs/{pair}/down/{server} lease/leases/end lease/scope/{scope}/drift/{server} ship/all ship/together '
                    .'ship/shipment/{shipment}/cancel ship/server/{server} ship/server/{server}/leases '
                    .'ship/server/{server}/drift directory/vlans/read '
                        .'watch/audits/{audit}/run',
    'POS' => 'POST: ship/server/{server}/mode',
    'A' => 'POST: ship/drafts/{draft}/decide',
    'S' => 'GET: directory/person/{person} ship/hooks POST: directory/sees-as/{person} ship/hooks/{hook}/test ship/hooks/{hook}/again',
    'P' => 'GET: plan/{space}/planner POST: plan/{space}/planner ship/outside/{outside} ship/outside/{outside}/stop/{run}',
];

/** Doors for everybody; each act asks for itself. */
const OPEN = [
    'GET sign-in',
    'GET up',
    'GET ready',
    'GET sign-in/code',
    'GET sign-in/with',
    'GET sign-in/back',
    'POST sign-in/code',
    'GET first-person',
    'POST sign-in',
    'POST first-person',
    'POST sign-out',
    'POST act/{action}',
];

beforeEach(function (): void {
    $this->w = World::make();
    config(['harbor.patience' => 0.05]);
    $this->people = [
        'P' => $this->w->people['planner'], 'O' => $this->w->people['operator'], 'A' => $this->w->people['approver'],
        'R' => $this->w->people['reader'], 'S' => $this->w->people['steward'], 'T' => $this->w->bound(),
    ];
});

it('lets each act be done by those it is for', function (): void {
    $expected = [];
    foreach (ACTS as $who => $keys) {
        foreach (explode(' ', $keys) as $key) {
            $expected[$key] = $who;
        }
    }
    $found = [];
    foreach (Registry::ACTS as $class) {
        $found[$class::key()] = implode('', array_keys(array_filter($this->people, fn ($p): bool => $class::may($p))));
    }
    ksort($expected);
    ksort($found);
    expect($found)->toBe($expected);
});

it('refuses by HTTP what an act is not for, and writes nothing', function (): void {
    $before = (int) DB::table('history')->max('id');
    foreach (ACTS as $who => $keys) {
        foreach (['R', 'T'] as $one) {
            foreach (str_contains($who, $one) ? [] : explode(' ', $keys) as $key) {
                $status = $this->actingAs($this->people[$one])->post("/act/$key", ['then' => 'commit'])->getStatusCode();
                expect($status)->toBeIn([302, 403, 422], "$key by $one");
            }
        }
    }
    expect((int) DB::table('history')->where('object_type', '!=', 'person')->max('id'))->toBeLessThanOrEqual($before);
});

it('opens each page to those it is for', function (): void {
    $expected = [];
    foreach (ROUTES as $who => $text) {
        $method = '';
        foreach (explode(' ', $text) as $word) {
            str_ends_with($word, ':') ? $method = rtrim($word, ':') : $expected["$method $word"] = $who;
        }
    }
    $w = $this->w;
    $ids = [
        'prefix' => $w->subnet->id, 'zone' => $w->zone->id, 'scope' => $w->scope->id, 'space' => $w->space->id,
        'server' => $w->servers['ns1'], 'layer' => 'server', 'of' => $w->servers['dh1'],
        'person' => $w->people['reader']->id, 'list' => 'sites', 'panel' => 'facts', 'form' => 'csv',
    ];
    $wrong = [];
    foreach (['GET', 'POST'] as $method) {
        foreach (Route::getRoutes()->getRoutesByMethod()[$method] as $route) {
            $door = "$method {$route->uri()}";
            // Programs have a door of their own, with its own tests.
            if (in_array($door, OPEN, true) || preg_match('~\A(api/v1|rdap|metrics|due/)~', $route->uri()) === 1) {
                continue;
            }
            if (! isset($expected[$door])) {
                $wrong[] = "$door has no row";

                continue;
            }
            $uri = '/'.preg_replace_callback('/\{(\w+)\}/', fn (array $m): string => $ids[$m[1]] ?? 'none', $route->uri());
            foreach (['' => null] + $this->people as $one => $person) {
                $this->app['auth']->forgetGuards();
                $person === null ?: $this->actingAs($person);
                $answer = $method === 'GET' ? $this->get($uri) : $this->post($uri);
                $status = $answer->getStatusCode();
                $shut = in_array($status, [403, 404], true);
                $right = match (true) {
                    $status >= 500 => false,
                    $one === '' => $status === 404
                        || $answer->isRedirect() && (str_ends_with((string) $answer->headers->get('Location'), '/sign-in') || $uri === '/'),
                    // Of what is not there, those who may look are told so.
                    str_contains($expected[$door], (string) $one) => ! $shut
                        || $status === 404
                            && (
                                str_contains($uri, 'none')
                                    || str_contains($uri, '/panel/')
                                    || str_contains($uri, '/drift/')
                                    || $uri === '/lease/exchange'
                            ),
                    default => $shut,
                };
                $right ?: $wrong[] = "$door by ".($one === '' ? 'nobody' : $one).": $status";
            }
        }
    }
    expect($wrong)->toBe([]);
});

it('gives the admin of a tenant nothing by an id of somebody else', function (): void {
    $w = $this->w;
    $w->did(
        PlaceHost::fromInput([
            'prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id, 'mac' => '00:00:5e:00:53:01', 'reserve' => '1',
        ]),
    );
    $before = (int) DB::table('history')->max('id');
    $told = [];
    $theirs = [
        'Prefix' => $w->subnet->id, 'Zone' => $w->zone->id, 'Scope' => $w->scope->id, 'Space' => $w->space->id,
        'Host' => Host::query()->where('prefix_id', $w->subnet->id)->value('id'),
        'Record' => App\Models\Record::query()->where('zone_id', $w->zone->id)->value('id'),
        'Reservation' => App\Models\Reservation::query()->value('id'), 'Server' => $w->servers['dh1'], 'View' => $w->view,
        'Person' => $w->people['planner']->id,
    ];
    foreach (Registry::ACTS as $class) {
        if (! $class::may($this->people['T'])) {
            continue;
        }
        foreach (Inputs::of($class) as $name => $field) {
            if ($field->of === null || ! isset($theirs[class_basename($field->of)])) {
                continue;
            }
            $id = $theirs[class_basename($field->of)];
            $input = array_map(fn (Field $f): mixed => match ($f->kind) {
                Kind::Flag, Kind::Number => '1', Kind::Choice => $f->choices[0], Kind::Ids, Kind::Texts, Kind::Lines,
                Kind::Map => [], Kind::NewId,
                Kind::Id => '', default => 'x'
            }, Inputs::of($class));
            $input[$name] = $field->kind === Kind::Ids ? [$id] : $id;
            foreach (['preview', 'commit'] as $then) {
                $answer = $this->actingAs($this->people['T'])->post('/act/'.$class::key(), ['then' => $then, 'reason' => 'try'] + $input);
                expect($answer->getStatusCode())->toBeLessThan(500);
                str_contains((string) $answer->getContent(), 'till-1')
                    || str_contains((string) $answer->getContent(), 'Ticketing') ? $told[] = $class::key()." $name $then" : null;
            }
        }
    }
    expect($told)->toBe([]);
    expect(
        DB::table('history')->where('id', '>', $before)->where('person_id', $this->people['T']->id)
            ->whereNotIn('object_type', ['person', 'draft', 'draft_edit'])->count(),
    )->toBe(0);
});
