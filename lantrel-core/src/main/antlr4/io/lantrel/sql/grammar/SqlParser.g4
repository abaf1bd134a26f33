/*
 * Queries (ISO/IEC 9075-2, clause 7) and CREATE TABLE (clause 11.3), one statement at a time:
 * the caller splits a text at its semicolons. AND and OR are lists, so that the tree of a long
 * condition is flat; joins are a left recursion, so that `a JOIN b JOIN c ON … ON …` nests as the
 * standard says.
 */
parser grammar SqlParser;

options { tokenVocab = SqlLexer; }

queryStatement : query EOF;

query : queryBody orderBy? limit?;

queryBody : select;

select
    : SELECT ( DISTINCT | ALL )? selectItem ( COMMA selectItem )*
      ( FROM from )?
      ( WHERE where=expression )?
      ( GROUP BY groupItem ( COMMA groupItem )* )?
      ( HAVING having=expression )?
    ;

selectItem
    : ( qualifier+=identifier DOT )* STAR      # allColumns
    | expression ( AS? label )?                # output
    ;

label : identifier;

groupItem : expression;

from : fromItem ( COMMA fromItem )*;

fromItem
    : tablePrimary                                                     # plainItem
    | left=fromItem joinKind JOIN right=fromItem joinCondition         # qualifiedJoin
    | left=fromItem NATURAL joinKind JOIN right=tablePrimary           # naturalJoin
    | left=fromItem CROSS JOIN right=tablePrimary                      # crossJoin
    ;

joinKind : INNER? | LEFT OUTER? | RIGHT OUTER? | FULL OUTER?;

joinCondition
    : ON expression                                                    # onCondition
    | USING LEFT_PAREN identifier ( COMMA identifier )* RIGHT_PAREN    # usingCondition
    ;

tablePrimary
    : qualifiedName alias?                                             # tableName
    | LEFT_PAREN query RIGHT_PAREN alias?                              # derivedTable
    | LEFT_PAREN fromItem RIGHT_PAREN                                  # nestedItem
    ;

alias : AS? identifier ( LEFT_PAREN identifier ( COMMA identifier )* RIGHT_PAREN )?;

orderBy : ORDER BY orderItem ( COMMA orderItem )*;

orderItem : expression ( ASC | DESC )? ( NULLS ( FIRST | LAST ) )?;

limit
    : LIMIT ( count=expression | ALL ) ( OFFSET skip=expression )?
    | OFFSET skip=expression ( ROW | ROWS )? ( FETCH ( FIRST | NEXT ) count=expression ( ROW | ROWS ) ONLY )?
    | FETCH ( FIRST | NEXT ) count=expression ( ROW | ROWS ) ONLY
    ;

expression : andExpression ( OR andExpression )*;

andExpression : notExpression ( AND notExpression )*;

notExpression
    : NOT notExpression     # negation
    | predicate             # plainPredicate
    ;

predicate : operand test*;

test
    : comparisonSign operand                                              # comparison
    | IS NOT? NULL                                                        # isNull
    | IS NOT? truth=( TRUE | FALSE | UNKNOWN )                            # isTruth
    | IS NOT? DISTINCT FROM operand                                       # isDistinct
    | NOT? BETWEEN low=operand AND high=operand                           # between
    | NOT? IN LEFT_PAREN query RIGHT_PAREN                                # inQuery
    | NOT? IN LEFT_PAREN expression ( COMMA expression )* RIGHT_PAREN     # inList
    | NOT? ( LIKE | ILIKE ) pattern=operand ( ESCAPE escape=operand )?    # like
    ;

comparisonSign : EQUAL | NOT_EQUAL | LESS | LESS_OR_EQUAL | GREATER | GREATER_OR_EQUAL;

operand
    : primary                                                   # plainPrimary
    | operand TYPE_MARK markedType                              # typeMark
    | sign=( PLUS | MINUS ) operand                             # signed
    | left=operand op=( STAR | SLASH | PERCENT ) right=operand  # arithmetic
    | left=operand op=( PLUS | MINUS ) right=operand            # arithmetic
    | left=operand op=CONCAT right=operand                      # arithmetic
    ;

primary
    : literal                                                                      # literalValue
    | CASE operandOfCase=expression? whenClause+ ( ELSE otherwise=expression )? END # caseExpression
    | CAST LEFT_PAREN expression AS typeName RIGHT_PAREN                           # cast
    | EXTRACT LEFT_PAREN identifier FROM expression RIGHT_PAREN                    # extract
    | EXISTS LEFT_PAREN query RIGHT_PAREN                                          # exists
    | LEFT_PAREN query RIGHT_PAREN                                                 # scalarQuery
    | LEFT_PAREN expression RIGHT_PAREN                                            # parenthesised
    | functionName LEFT_PAREN ( STAR | DISTINCT? expression ( COMMA expression )* )? RIGHT_PAREN
      ( FILTER LEFT_PAREN WHERE expression RIGHT_PAREN )?                          # functionCall
    | qualifiedName                                                                # columnName
    ;

functionName : qualifiedName | LEFT | RIGHT | IF;

whenClause : WHEN when=expression THEN then=expression;

literal
    : NUMBER
    | STRING
    | TRUE
    | FALSE
    | NULL
    | ( DATE | TIME | TIMESTAMP ) STRING
    | INTERVAL STRING identifier?
    ;

typeName
    : typeWord+ ( LEFT_PAREN NUMBER ( COMMA NUMBER )* RIGHT_PAREN )? typeTail?
    ;

// After `::` a second word would be the column's label, so the type is one word.
markedType : typeWord ( LEFT_PAREN NUMBER ( COMMA NUMBER )* RIGHT_PAREN )?;

typeWord : NAME | DATE | TIME | TIMESTAMP | INTERVAL;

typeTail : ( NAME | WITH | TIME )+;

qualifiedName : identifier ( DOT identifier )*;

identifier : NAME | QUOTED_NAME | nonReserved;

// Words that the standard (ISO/IEC 9075-2, 5.2) lists as non-reserved, or that engines take as names.
nonReserved
    : DATE | ESCAPE | EXTRACT | FILTER | FIRST | IF | INTERVAL | KEY | LAST | NEXT | NULLS | OFFSET
    | ONLY | ROW | ROWS | TIME | TIMESTAMP | UNKNOWN
    ;

// ---- CREATE TABLE, for schema files ----

createTable
    : CREATE TABLE ( IF NOT EXISTS )? qualifiedName
      LEFT_PAREN tableElement ( COMMA tableElement )* RIGHT_PAREN EOF
    ;

tableElement : tableConstraint | columnDefinition;

columnDefinition : identifier typeName columnConstraint*;

columnConstraint
    : ( CONSTRAINT identifier )?
      ( NOT NULL | NULL | PRIMARY KEY | UNIQUE | references | CHECK balanced | DEFAULT defaultValue )
    ;

defaultValue : MINUS? literal | balanced | identifier balanced?;

tableConstraint
    : ( CONSTRAINT identifier )?
      ( PRIMARY KEY columnList | UNIQUE columnList | FOREIGN KEY columnList references | CHECK balanced )
    ;

references : REFERENCES qualifiedName columnList? referenceOption*;

// MATCH FULL, ON DELETE CASCADE, DEFERRABLE …: read and left alone, since nothing is enforced.
referenceOption : ON NAME ( NAME | NULL | DEFAULT )+ | NOT? NAME FULL?;

columnList : LEFT_PAREN identifier ( COMMA identifier )* RIGHT_PAREN;

balanced : LEFT_PAREN ( balanced | ~( LEFT_PAREN | RIGHT_PAREN ) )* RIGHT_PAREN;
