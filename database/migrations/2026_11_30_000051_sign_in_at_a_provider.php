<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** People may be known at an identity provider of the organisation, and teams be groups there. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('people', static function (Blueprint $t): void {
            $t->string('outside_name', 190)->collation('utf8mb4_nopad_bin')->nullable()->unique(); // as a steward wrote it down
            // A digest of issuer and subject: as the provider knows them for good, from the first time on.
            $t->char('outside_subject', 64)->charset('ascii')->nullable()->unique();
        });
        Schema::table('teams', static function (Blueprint $t): void {
            $t->string('outside_group', 190)->collation('utf8mb4_nopad_bin')->default('');
        });
    }

    public function down(): void
    {
        Schema::table('teams', static fn (Blueprint $t) => $t->dropColumn('outside_group'));
        Schema::table('people', static fn (Blueprint $t) => $t->dropColumn(['outside_name', 'outside_subject']));
    }
};
