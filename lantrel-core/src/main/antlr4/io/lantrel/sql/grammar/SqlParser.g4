/*
 * Queries (ISO/IEC 9075-2, clauses 6 to 8 and 10.9), one statement at a time: the caller splits a
 * text at its semicolons. The grammar takes what any engine takes; what an engine refuses, it says
 * itself. AND and OR are lists, so that the tree of a long condition is flat; joins are a left
 * recursion, so that `a JOIN b JOIN c ON … ON …` nests as the standard says.
 */
parser grammar SqlParser;

options { tokenVocab = SqlLexer; }

queryStatement : query EOF;

conditionAlone : expression EOF;

// ---- query expressions (7.17) ----

query : with? queryBody tail*;

with : WITH RECURSIVE? commonTable ( COMMA commonTable )*;

commonTable
    : identifier columnList? AS ( NOT? MATERIALIZED )? LEFT_PAREN query RIGHT_PAREN searchClause? cycleClause?
    ;

searchClause : SEARCH ( DEPTH | BREADTH ) FIRST BY identifier ( COMMA identifier )* SET identifier;

cycleClause
    : CYCLE identifier ( COMMA identifier )* SET identifier
      ( TO expression DEFAULT expression )? ( USING identifier )?              # cycleMark
    | CYCLE identifier ( COMMA identifier )* identifier                        # cycleRestrict
    ;

// What is done to all rows. The order is the standard's, but engines take others too.
tail : orderBy | limit | locking;

queryBody : queryTerm ( ( UNION | EXCEPT | MINUS_WORD ) setOptions queryTerm )*;

queryTerm : queryPrimary ( INTERSECT setOptions queryPrimary )*;

setOptions : ( ALL | DISTINCT )? ( CORRESPONDING ( BY columnList )? | BY NAME_WORD )?;

queryPrimary
    : select                                     # selectBody
    | VALUES valuesRow ( COMMA valuesRow )*      # valuesBody
    | TABLE qualifiedName                        # tableBody
    | LEFT_PAREN query RIGHT_PAREN               # nestedBody
    ;

valuesRow : ROW? LEFT_PAREN expression ( COMMA expression )* RIGHT_PAREN | operand;

select
    : SELECT ( top | quantifier | modifier )* ( selectItem ( COMMA selectItem )* last=COMMA? )?
      ( FROM from )? selectTail
    | FROM from ( SELECT quantifier? selectItem ( COMMA selectItem )* last=COMMA? )? selectTail
    ;

quantifier : ALL | DISTINCT ( ON LEFT_PAREN expression ( COMMA expression )* RIGHT_PAREN )?;

top
    : TOP ( NUMBER | PARAMETER | LEFT_PAREN expression RIGHT_PAREN ) PERCENT? ( WITH TIES )?
    | LIMIT skip=NUMBER count=NUMBER
    ;

// What asks the engine to go another way to the same rows.
modifier
    : SQL_BIG_RESULT | SQL_BUFFER_RESULT | SQL_CALC_FOUND_ROWS | SQL_NO_CACHE | SQL_CACHE
    | SQL_SMALL_RESULT | HIGH_PRIORITY | STRAIGHT_JOIN
    ;

selectTail
    : ( WHERE where=expression )?
      ( GROUP BY groupBy )?
      ( HAVING having=expression )?
      ( WINDOW namedWindow ( COMMA namedWindow )* )?
      ( QUALIFY qualify=expression )?
    ;

selectItem
    : ( qualifier+=identifier DOT )* STAR starOption*      # allColumns
    | expression ( AS asLabel | label )?                   # output
    ;

starOption
    : ( EXCLUDE | EXCEPT ) ( identifier | LEFT_PAREN identifier ( COMMA identifier )* RIGHT_PAREN )   # excluded
    | REPLACE ( replacement | LEFT_PAREN replacement ( COMMA replacement )* RIGHT_PAREN )             # replaced
    ;

replacement : expression AS identifier;

asLabel : anyWord | STRING;

label : identifier | STRING;

groupBy
    : ALL                                                                      # groupByAll
    | ( ALL | DISTINCT )? groupItem ( COMMA groupItem )* ( WITH ROLLUP )?      # groupByItems
    ;

groupItem
    : GROUPING SETS LEFT_PAREN groupItem ( COMMA groupItem )* RIGHT_PAREN           # groupingSets
    | ( ROLLUP | CUBE ) LEFT_PAREN groupItem ( COMMA groupItem )* RIGHT_PAREN       # rollup
    | LEFT_PAREN RIGHT_PAREN                                                        # grandTotal
    | expression ( ASC | DESC )?                                                    # plainGroup
    ;

namedWindow : identifier AS windowSpec;

windowSpec
    : LEFT_PAREN base=identifier? ( PARTITION BY expression ( COMMA expression )* )? orderBy? frame? RIGHT_PAREN
    ;

frame
    : unit=( ROWS | RANGE | GROUPS )
      ( start=frameBound | BETWEEN start=frameBound AND end=frameBound )
      ( EXCLUDE exclusion )?
    ;

frameBound : CURRENT ROW | operand ( PRECEDING | FOLLOWING );

exclusion : CURRENT ROW | GROUP | TIES | NO OTHERS;

orderBy : ORDER BY orderItem ( COMMA orderItem )*;

orderItem
    : ( ALL | expression ) ( ASC | DESC | USING operatorSign )? ( NULLS ( FIRST | LAST ) )?
    ;

limit
    : LIMIT ( count=operand ( PERCENT | PERCENT_SIGN )? | ALL ) ( OFFSET skip=operand ( ROW | ROWS )? )? examined?  # limitCount
    | LIMIT examined                                                                        # limitWork
    | LIMIT skip=operand COMMA count=operand examined?                                      # limitPair
    | OFFSET skip=operand ( ROW | ROWS )?                                                   # limitOffset
    | FETCH ( FIRST | NEXT ) ( count=operand PERCENT? )? ( ROW | ROWS ) ( ONLY | WITH TIES )  # limitFetch
    ;

// How many rows are looked at before the engine gives up.
examined : ROWS EXAMINED operand;

// Locks say nothing about the rows that come out.
locking
    : FOR ( NO? KEY )? ( UPDATE | SHARE ) ( OF qualifiedName ( COMMA qualifiedName )* )? lockWait?
    | FOR READ ONLY
    | LOCK IN SHARE MODE lockWait?
    ;

lockWait : NOWAIT | SKIP_WORD LOCKED | WAIT NUMBER;

// ---- tables (7.6 to 7.10) ----

from : fromItem ( COMMA fromItem )*;

fromItem
    : tablePrimary                                                     # plainItem
    | left=fromItem joinKind ( JOIN | STRAIGHT_JOIN ) right=fromItem joinCondition  # qualifiedJoin
    | left=fromItem NATURAL joinKind JOIN right=tablePrimary           # naturalJoin
    | left=fromItem CROSS JOIN right=tablePrimary                      # crossJoin
    | left=fromItem joinKind BARE_JOIN right=tablePrimary              # bareJoin
    | left=fromItem word=( SEMI | ANTI ) JOIN right=fromItem joinCondition          # filterJoin
    | left=fromItem ASOF joinKind JOIN right=fromItem joinCondition                 # nearestJoin
    | left=fromItem POSITIONAL JOIN right=tablePrimary                              # positionalJoin
    ;

joinKind : INNER? | LEFT OUTER? | RIGHT OUTER? | FULL OUTER?;

joinCondition
    : ON expression                                 # onCondition
    | USING columnList ( AS identifier )?           # usingCondition
    ;

tablePrimary
    : ( ONLY? qualifiedName STAR? | ONLY LEFT_PAREN qualifiedName RIGHT_PAREN )
      ( partition | period )? sample? alias? indexHint* sample?                          # tableName
    | LATERAL? LEFT_PAREN query RIGHT_PAREN alias?                          # derivedTable
    | LATERAL? tableFunction ( WITH ORDINALITY )? functionAlias?            # functionTable
    | ROWS FROM LEFT_PAREN rowsFromItem ( COMMA rowsFromItem )* RIGHT_PAREN
      ( WITH ORDINALITY )? functionAlias?                                   # rowsFromTable
    | VALUES valuesRow ( COMMA valuesRow )* alias?                          # valuesTable
    | LEFT_PAREN from RIGHT_PAREN alias?                                    # nestedItem
    | LEFT_BRACE NAME fromItem RIGHT_BRACE                                  # escapedItem
    ;

tableFunction
    : xmlTable
    | functionName LEFT_PAREN callBody? RIGHT_PAREN
    | TABLE LEFT_PAREN expression RIGHT_PAREN
    ;

rowsFromItem : tableFunction ( AS LEFT_PAREN columnDefinition ( COMMA columnDefinition )* RIGHT_PAREN )?;

functionAlias
    : AS? tableLabel LEFT_PAREN columnDefinition ( COMMA columnDefinition )* RIGHT_PAREN
    | AS LEFT_PAREN columnDefinition ( COMMA columnDefinition )* RIGHT_PAREN
    | alias
    ;

columnDefinition : identifier markedType ( COLLATE qualifiedName )?;

period
    : FOR NAME ( AS OF operand | BETWEEN operand AND operand | FROM operand TO operand | ALL )
    ;

partition : PARTITION LEFT_PAREN identifier ( COMMA identifier )* RIGHT_PAREN;

sample
    : TABLESAMPLE identifier? LEFT_PAREN operand ( PERCENT | PERCENT_SIGN | ROWS )? RIGHT_PAREN
      ( identifier LEFT_PAREN operand RIGHT_PAREN )?
    ;

// Hints: which index to use or not.
indexHint
    : ( USE | FORCE | IGNORE ) ( INDEX | KEY ) ( FOR ( JOIN | ( ORDER | GROUP ) BY ) )?
      LEFT_PAREN ( identifier ( COMMA identifier )* )? RIGHT_PAREN
    | INDEXED BY identifier
    | NOT INDEXED
    ;

alias : ( AS aliasName | tableLabel ) columnList?;

aliasName : identifier | STRING;

tableLabel : NAME | QUOTED_NAME | bareWord;

columnList : LEFT_PAREN identifier ( COMMA identifier )* RIGHT_PAREN;

// ---- conditions (6.39, clause 8) ----

expression : xorExpression ( OR xorExpression )*;

xorExpression : andExpression ( XOR andExpression )*;

andExpression : notExpression ( AND notExpression )*;

notExpression
    : NOT notExpression     # negation
    | predicate             # plainPredicate
    ;

predicate : comparand test*;

test
    : comparisonSign ( ANY | ALL | SOME ) compared                        # quantified
    | comparisonSign notComparand                                         # comparison
    | NULL_SAFE_EQUAL comparand                                           # nullSafe
    | IS NOT? NULL                                                        # isNull
    | IS NOT? truth=( TRUE | FALSE | UNKNOWN )                            # isTruth
    | IS NOT? DISTINCT FROM comparand                                     # isDistinct
    | IS NOT? JSON ( VALUE | ARRAY | identifier )? ( ( WITH | WITHOUT ) UNIQUE KEYS? )?   # isKind
    | IS NOT? OF balanced                                                 # isKind
    | IS NOT? identifier? NORMALIZED                                      # isKind
    | IS NOT? comparand                                                   # isSame
    ;

notComparand : NOT? comparand;

compared : LEFT_PAREN query RIGHT_PAREN | LEFT_PAREN expression RIGHT_PAREN;

comparand : operand rangeTest*;

rangeTest
    : NOT? BETWEEN ( SYMMETRIC | ASYMMETRIC )? low=operand AND high=operand           # between
    | NOT? IN LEFT_PAREN query RIGHT_PAREN                                            # inQuery
    | NOT? IN LEFT_PAREN ( expression ( COMMA expression )* COMMA? )? RIGHT_PAREN     # inList
    | NOT? IN inValue                                                                 # inArray
    | NOT? likeSign ( ANY | ALL | SOME ) compared                                     # quantifiedLike
    | NOT? likeSign pattern=operand ( ESCAPE escape=operand )?                        # like
    | NOTNULL                                                                         # isNullWord
    | ISNULL                                                                          # isNullWord
    | NOT NULL                                                                        # isNullWord
    | OVERLAPS operand                                                                # overlaps
    | SOUNDS LIKE operand                                                             # soundsLike
    ;

// What holds several values, or a table: anything that does not begin with a parenthesis.
inValue
    : parameter
    | STRING
    | ARRAY? LEFT_BRACKET ( expression ( COMMA expression )* COMMA? )? RIGHT_BRACKET
    | functionName LEFT_PAREN callBody? RIGHT_PAREN
    | qualifiedName
    ;

likeSign : LIKE | ILIKE | SIMILAR TO | GLOB | REGEXP | RLIKE | MATCH;

comparisonSign : EQUAL | NOT_EQUAL | LESS | LESS_OR_EQUAL | GREATER | GREATER_OR_EQUAL;

// ---- values (clause 6) ----

operand
    : primary                                                                        # plainPrimary
    | operand TYPE_MARK markedType                                                   # typeMark
    | operand LEFT_BRACKET subscript RIGHT_BRACKET fieldPart*                        # subscripted
    | sign=( PLUS | MINUS | TILDE | NOT_SIGN | OPERATOR_SIGN | BINARY ) operand       # signed
    | operand FORMAT JSON                                                            # inFormat
    | operand COLLATE qualifiedName                                                  # collated
    | operand AT ( TIME ZONE operand | LOCAL )                                       # atZone
    | left=operand op=CARET right=operand                                            # arithmetic
    | left=operand op=( STAR | SLASH | PERCENT_SIGN | WHOLE_SLASH | DIV | MOD ) right=operand  # arithmetic
    | left=operand op=( PLUS | MINUS ) right=operand                                 # arithmetic
    | left=operand otherSign right=operand                                           # otherOperation
    ;

otherSign
    : CONCAT | ARROW | OPERATOR_SIGN | TILDE | PARAMETER
    | OPERATOR ( LEFT_PAREN ( identifier DOT )* operatorSign RIGHT_PAREN | OUTER_MARK ) ;

operatorSign
    : OPERATOR_SIGN | CONCAT | ARROW | TILDE | CARET | PLUS | MINUS | STAR | SLASH | PERCENT_SIGN | EQUAL | NOT_EQUAL | LESS
    | LESS_OR_EQUAL | GREATER | GREATER_OR_EQUAL | NOT_SIGN | WHOLE_SLASH
    ;

subscript
    : COLON high=expression?
    | low=expression ( colon=COLON high=expression? )?
    ;

fieldPart : DOT ( anyWord | STAR );

primary
    : literal                                                                       # literalValue
    | parameter                                                                     # parameterValue
    | VARIABLE ASSIGN expression                                                    # assignment
    | ( NEXT | CURRENT | NAME ) VALUE FOR qualifiedName                                                  # nextValue
    | MATCH LEFT_PAREN expression ( COMMA expression )* RIGHT_PAREN
      AGAINST LEFT_PAREN operand anyWord* RIGHT_PAREN                               # matchAgainst
    | LEFT_BRACE NAME primary RIGHT_BRACE                                           # escaped
    | CASE operandOfCase=expression? whenClause+ ( ELSE otherwise=expression )? END CASE? # caseExpression
    | ( CAST | TRY_CAST ) LEFT_PAREN expression AS castType RIGHT_PAREN fieldPart*   # cast
    | EXISTS LEFT_PAREN query RIGHT_PAREN                                            # exists
    | word=( ARRAY | MULTISET | UNIQUE | TABLE ) LEFT_PAREN query RIGHT_PAREN        # queryCall
    | LEFT_PAREN query RIGHT_PAREN fieldPart*                                        # scalarQuery
    | LEFT_PAREN expression ( COMMA expression )* RIGHT_PAREN fieldPart*             # parenthesised
    | LEFT_PAREN RIGHT_PAREN                                                         # emptyRow
    | LEFT_PAREN ( qualifier+=identifier DOT )+ STAR RIGHT_PAREN                     # wholeRow
    | ROW LEFT_PAREN ( rowPart ( COMMA rowPart )* )? RIGHT_PAREN fieldPart*          # rowConstructor
    | ARRAY? LEFT_BRACKET ( expression ( COMMA expression )* COMMA? )? RIGHT_BRACKET fieldPart*  # arrayValue
    | LEFT_BRACKET expression FOR identifier ( COMMA identifier )* IN expression
      ( IF expression )? RIGHT_BRACKET                                               # comprehension
    | LEFT_BRACE ( entry ( COMMA entry )* COMMA? )? RIGHT_BRACE fieldPart*           # structValue
    | identifier LEFT_BRACE ( entry ( COMMA entry )* )? RIGHT_BRACE fieldPart*       # mapValue
    | EXTRACT LEFT_PAREN ( anyWord | STRING ) FROM expression RIGHT_PAREN            # extract
    | word=( SUBSTRING | SUBSTR ) LEFT_PAREN expression substringPart+ RIGHT_PAREN   # substring
    | word=POSITION LEFT_PAREN operand IN operand ( USING anyWord )? RIGHT_PAREN     # position
    | word=TRIM LEFT_PAREN trimSide=( BOTH | LEADING | TRAILING )? expression? FROM
      expression ( COMMA expression )* RIGHT_PAREN                                   # trim
    | word=TRIM LEFT_PAREN trimSide=( BOTH | LEADING | TRAILING )
      expression ( COMMA expression )* RIGHT_PAREN                                   # trim
    | word=OVERLAY LEFT_PAREN expression PLACING expression FROM expression
      ( FOR expression )? RIGHT_PAREN                                                # overlay
    | COLLATION FOR LEFT_PAREN expression RIGHT_PAREN                                # collationOf
    | xmlCall                                                                        # xmlValue
    | functionName LEFT_PAREN callBody? RIGHT_PAREN callTail* fieldPart*             # functionCall
    | qualifiedName OUTER_MARK?                                                    # columnName
    ;

rowPart : ( qualifier+=identifier DOT )* STAR | expression;

entry : expression COLON expression;

substringPart : ( FROM | FOR | SIMILAR | ESCAPE ) expression;

functionName : identifier ( DOT identifier )* | LEFT | RIGHT | VALUES;

callBody
    : STAR starOption* 
    | ( ALL | DISTINCT )? argument ( COMMA argument )* ( USING anyWord )? orderBy? ( SEPARATOR operand )?
      ( ( IGNORE | RESPECT ) NULLS )? jsonClause*
    | query
    ;

// Functions on XML (9075-14, clause 6), with words of their own between the values.
xmlCall
    : XMLELEMENT LEFT_PAREN NAME_WORD? anyWord ( COMMA xmlAttributes )? ( COMMA expression )* RIGHT_PAREN
    | XMLFOREST LEFT_PAREN xmlItem ( COMMA xmlItem )* RIGHT_PAREN
    | XMLPI LEFT_PAREN NAME_WORD? anyWord ( COMMA expression )? RIGHT_PAREN
    | XMLPARSE LEFT_PAREN identifier expression ( identifier identifier )? RIGHT_PAREN
    | XMLSERIALIZE LEFT_PAREN identifier expression AS castType RIGHT_PAREN
    | XMLROOT LEFT_PAREN expression COMMA identifier ( NO VALUE | expression )
      ( COMMA identifier ( NO VALUE? | identifier ) )? RIGHT_PAREN
    | XMLEXISTS LEFT_PAREN operand PASSING xmlBy? operand xmlBy? RIGHT_PAREN
    ;

xmlAttributes : XMLATTRIBUTES LEFT_PAREN xmlItem ( COMMA xmlItem )* RIGHT_PAREN;

xmlItem : expression ( AS anyWord )?;

xmlBy : BY identifier;

// XMLTABLE (9075-14, 7.1); what its columns are made of stays as it is written.
xmlTable
    : XMLTABLE LEFT_PAREN ( XMLNAMESPACES balanced COMMA )? operand PASSING xmlBy? operand xmlBy?
      xmlColumns RIGHT_PAREN
    ;

xmlColumns : COLUMNS ( balanced | ~( LEFT_PAREN | RIGHT_PAREN ) )+;

// How a function on JSON answers (9075-2, 6.34 and the following); no column stands here.
jsonClause
    : ( NULL | ABSENT | ERROR | NAME | DEFAULT operand ) ON ( NULL | ERROR | NAME )
    | ( WITH | WITHOUT ) ( UNIQUE KEYS? | NAME? ARRAY? NAME )
    | ( KEEP | NAME ) NAME
    | LIMIT operand ( ( COMMA | OFFSET ) operand )?
    | COLUMNS balanced
    | RETURNING markedType ( NAME JSON )?
    | PASSING operand AS identifier ( COMMA operand AS identifier )*
    | NAME JSON
    ;

balanced : LEFT_PAREN ( balanced | ~( LEFT_PAREN | RIGHT_PAREN ) )* RIGHT_PAREN;

argument
    : VARIADIC expression                                                            # variadicArgument
    | LAMBDA identifier ( COMMA identifier )* COLON expression                       # lambdaArgument
    | identifier ASSIGN expression                                                   # namedArgument
    | ( qualifier+=identifier DOT )+ STAR                                            # rowArgument
    | KEY? expression ( COLON | VALUE ) expression                                    # pairArgument
    | expression                                                                     # plainArgument
    ;

callTail
    : WITHIN GROUP LEFT_PAREN orderBy RIGHT_PAREN
    | FILTER LEFT_PAREN WHERE? expression RIGHT_PAREN
    | ( IGNORE | RESPECT ) NULLS
    | FROM ( FIRST | LAST )
    | OVER ( identifier | windowSpec )
    ;

whenClause : WHEN when=expression THEN then=expression;

literal
    : NUMBER
    | STRING+
    | TRUE
    | FALSE
    | NULL
    | ( DATE | TIME | TIMESTAMP ) ( LEFT_PAREN NUMBER RIGHT_PAREN )? ( ( WITH | WITHOUT ) TIME ZONE )? STRING
    | INTERVAL ( LEFT_PAREN NUMBER RIGHT_PAREN )? sign=( PLUS | MINUS )? STRING intervalUnit?
    | INTERVAL operand intervalUnit
    | ( DOUBLE PRECISION | CHARACTER VARYING | identifier VARYING ) ( LEFT_PAREN NUMBER RIGHT_PAREN )? STRING
    | qualifiedName ( LEFT_PAREN NUMBER RIGHT_PAREN )? STRING
    ;

intervalUnit : identifier ( LEFT_PAREN NUMBER ( COMMA NUMBER )? RIGHT_PAREN )? ( TO identifier ( LEFT_PAREN NUMBER RIGHT_PAREN )? )?;

parameter : PARAMETER | VARIABLE | COLON ( anyWord | NUMBER );

castType : castTypePart+;

castTypePart
    : anyWord | NUMBER | STRING | DOT | COMMA | LEFT_BRACKET | RIGHT_BRACKET | PERCENT_SIGN
    | LEFT_PAREN castTypePart* RIGHT_PAREN
    ;

// After `::` a second word would be the column's label, so only the known pairs are taken.
markedType
    : ( DOUBLE PRECISION
      | CHARACTER VARYING
      | ( TIME | TIMESTAMP ) typeSize? ( WITH | WITHOUT ) TIME ZONE
      | INTERVAL intervalUnit
      | identifier VARYING
      | identifier ( DOT identifier )*
      )
      typeSize? ( LEFT_BRACKET NUMBER? RIGHT_BRACKET | ARRAY )*
    ;

typeSize : LEFT_PAREN castTypePart* RIGHT_PAREN;

qualifiedName : identifier ( DOT anyWord )*;

identifier : NAME | QUOTED_NAME | bareWord | afterTableWord;

anyWord : NAME | QUOTED_NAME | bareWord | afterTableWord | reservedWord;

// Words that the standard (ISO/IEC 9075-2, 5.2) lists as non-reserved, or that engines take as names.
bareWord
    : ABSENT | FORMAT | COLLATION | NORMALIZED | XMLATTRIBUTES | XMLELEMENT | XMLEXISTS | XMLFOREST
    | XMLNAMESPACES | XMLPARSE | XMLPI | XMLROOT | XMLSERIALIZE | XMLTABLE | AGAINST | BINARY | COLUMNS | SOUNDS | ARRAY | ASYMMETRIC | AT | BOTH | BREADTH | CHARACTER | CONDITION | CORRESPONDING
    | CUBE | CURRENT | CYCLE | DATE | DAY | DEFAULT | DEPTH | DIV | DOUBLE | ERROR | ESCAPE
    | EXAMINED | EXCLUDE | EXTRACT | FILTER | FIRST | FOLLOWING | GLOB | GROUPING | GROUPS | HIGH_PRIORITY
    | HOUR | IF | ILIKE | INDEX | INTERVAL | ISNULL | JSON | KEEP | KEY | KEYS | LAMBDA | LAST
    | LEADING | LOCAL | LOCK | LOCKED | MATCH | MATERIALIZED | MINUS_WORD | MINUTE | MOD | MODE
    | MONTH | MULTISET | NAME_WORD | NEXT | NO | NOTNULL | NOWAIT | NULLS | OF | OFFSET | ONLY
    | OPERATOR | ORDINALITY | OTHERS | OVER | OVERLAPS | OVERLAY | PARTITION | PERCENT | PLACING
    | POSITION | PRECEDING | PRECISION | RANGE | READ | RECURSIVE | REGEXP | RENAME | REPLACE
    | RESPECT | RETURNING | PASSING | RLIKE | ROLLUP | ROW | ROWS | SAMPLE | SEARCH | SECOND | SEPARATOR | SET | SETS
    | SHARE | SIMILAR | SKIP_WORD | SOME | SQL_BIG_RESULT | SQL_BUFFER_RESULT | SQL_CACHE
    | SQL_CALC_FOUND_ROWS | SQL_NO_CACHE | SQL_SMALL_RESULT | SUBSTR
    | SUBSTRING | SYMMETRIC | TIES | TIME | TIMESTAMP | TO | TOP | TRAILING | TRIM | TRY_CAST
    | UNIQUE | UNKNOWN | UPDATE | VALUE | VARIADIC | VARYING | WAIT | WITHIN | WITHOUT | XOR
    | YEAR | ZONE
    ;

// The same, but behind a table they begin something, so there they are no alias without AS.
afterTableWord
    : ANTI | ASOF | FORCE | IGNORE | INDEXED | PIVOT | POSITIONAL | SEMI | STRAIGHT_JOIN
    | TABLESAMPLE | UNPIVOT | USE
    ;

// No names, but where nothing else can stand: behind a dot, and as a label behind AS.
reservedWord
    : ALL | AND | ANY | AS | ASC | BETWEEN | BY | CASE | CAST | COLLATE | CROSS | DESC | DISTINCT
    | ELSE | END | EXCEPT | EXISTS | FALSE | FETCH | FOR | FROM | FULL | GROUP | HAVING | IN
    | INNER | INTERSECT | INTO | IS | JOIN | LATERAL | LEFT | LIKE | LIMIT | NATURAL | NOT | NULL
    | ON | OR | ORDER | OUTER | QUALIFY | RIGHT | SELECT | TABLE | THEN | TRUE | UNION | USING
    | VALUES | WHEN | WHERE | WINDOW | WITH
    ;
