<?php

declare(strict_types=1);

use HarborPost\Launcher\Tests;

/*
 * What composer and npm tell of packages that are known to be unsound.
 */

it('takes what is told of packages, and nothing for an answer that is none', function (array $said, ?array $found): void {
    foreach (['Say', 'Tests'] as $class) {
        class_exists("HarborPost\\Launcher\\$class", false) || require_once dirname(__DIR__, 2)."/launcher/$class.php";
    }
    expect((new ReflectionMethod(Tests::class, 'advised'))->invoke(null, $said))->toBe($found);
})->with([
    'composer, none' => [['advisories' => []], []],
    'composer, one' => [['advisories' => ['quay/crane' => [['title' => 'x']]]], ['quay/crane']],
    'npm, grave ones alone' => [
        ['vulnerabilities' => ['a' => ['severity' => 'low'], 'b' => ['severity' => 'high'], 'c' => ['severity' => 'critical']]], ['b', 'c'],
    ],
    'npm, none' => [['vulnerabilities' => []], []],
    'a registry that does not tell' => [['error' => ['code' => 'E405']], null],
    'nothing' => [[], null],
]);
