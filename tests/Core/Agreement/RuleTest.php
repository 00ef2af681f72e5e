<?php

declare(strict_types=1);

use HarborPost\Core\Agreement\ChangeFacts;
use HarborPost\Core\Agreement\Rule;
use HarborPost\Core\Agreement\RuleKind;

it('holds for the changes it speaks of, and for no others', function (
    RuleKind $kind,
    string $value,
    ChangeFacts $facts,
    bool $holds,
): void {
    expect((new Rule($kind, $value, $value, 1))->holds($facts))->toBe($holds);
})->with([
    'anything' => [RuleKind::Always, '', new ChangeFacts(1, [], [], [], false), true],
    'nothing at all' => [RuleKind::Always, '', new ChangeFacts(0, [], [], [], false), false],
    'more rows' => [RuleKind::Rows, '50', new ChangeFacts(51, [], [], [], false), true],
    'as many rows' => [RuleKind::Rows, '50', new ChangeFacts(50, [], [], [], false), false],
    'a zone removed' => [RuleKind::Removes, 'zone', new ChangeFacts(1, ['zone' => 1], ['zone' => 1], [], false), true],
    'a zone changed' => [RuleKind::Removes, 'zone', new ChangeFacts(1, ['zone' => 1], ['zone' => 0], [], false), false],
    'a record removed' => [RuleKind::Removes, 'zone', new ChangeFacts(1, ['record' => 1], ['record' => 1], [], false), false],
    'a zone touched' => [RuleKind::Touches, 'zone', new ChangeFacts(1, ['zone' => 1], [], [], false), true],
    'no zone touched' => [RuleKind::Touches, 'zone', new ChangeFacts(1, ['record' => 1], [], [], false), false],
    'at the site' => [RuleKind::Site, 'A', new ChangeFacts(1, [], [], ['B', 'A'], false), true],
    'elsewhere' => [RuleKind::Site, 'A', new ChangeFacts(1, [], [], ['B'], false), false],
    'nowhere' => [RuleKind::Site, 'A', new ChangeFacts(1, [], [], [], false), false],
    'warned' => [RuleKind::Warning, '', new ChangeFacts(1, [], [], [], true), true],
    'not warned' => [RuleKind::Warning, '', new ChangeFacts(1, [], [], [], false), false],
]);

it('names the one that needs most first', function (): void {
    $rules = [
        new Rule(RuleKind::Always, '', '', 1), new Rule(RuleKind::Warning, '', '', 3), new Rule(RuleKind::Rows, '9', '9', 2),
        new Rule(RuleKind::Removes, 'zone', 'zone', 5),
    ];
    $hold = Rule::thatHold($rules, new ChangeFacts(10, [], [], [], true));
    expect(array_map(fn (Rule $r): int => $r->needs, $hold))->toBe([3, 2, 1]);
});

it('reads as a sentence', function (): void {
    expect((new Rule(RuleKind::Removes, 'zone', 'zone', 1))->sentence())
        ->toBe('A change that removes a zone needs the agreement of one approver, not of its author.')
        ->and((new Rule(RuleKind::Touches, 'address', 'address', 1))->sentence())
        ->toBe('A change that touches an address needs the agreement of one approver, not of its author.')
        ->and((new Rule(RuleKind::Rows, '1000', '1,000', 2))->sentence())
        ->toBe('A change that touches more rows than 1,000 needs the agreement of 2 approvers, not of its author.');
    foreach (RuleKind::cases() as $kind) {
        expect((new Rule($kind, '', '', 1))->sentence())->not->toContain('  ');
    }
});
