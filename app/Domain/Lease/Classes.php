<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Acts\Engine\Ledger;
use HarborPost\Core\Dhcp\Client\BadCondition;
use HarborPost\Core\Dhcp\Client\ClientClass as Rules;

/** What every act on classes of clients needs: the rows of a form read as conditions. */
final class Classes
{
    /**
     * Rows whose value is blank say nothing and are left out.
     *
     * @param  list<string>  $fields
     * @param  list<string>  $comparisons
     * @param  list<string>  $values
     * @return list<array{field: string, is: string, value: string}>
     */
    public static function rows(Ledger $ledger, array $fields, array $comparisons, array $values, bool $any): array
    {
        $rows = [];
        foreach ($values as $i => $value) {
            if (trim($value) !== '') {
                $rows[] = ['field' => $fields[$i] ?? '', 'is' => $comparisons[$i] ?? '', 'value' => $value];
            }
        }
        try {
            Rules::of('', '', $any, $rows);
        } catch (BadCondition $e) {
            $ledger->refuse('bad-condition', $e->getMessage(), 'A class needs at least one row that can be compared.', null, 'values');
        }

        return $rows;
    }
}
