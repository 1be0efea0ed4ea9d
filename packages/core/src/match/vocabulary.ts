/**
 * Words of forms that mean the same: an English one first, then its synonyms and how German, French and Spanish say it.
 * Small letters, without accents. Common practice, no source. Words that mean different things in two of the languages
 * are left out, unless one meaning is the usual one on forms.
 */
const groups = `
accept agree consent confirm akzeptiere akzeptieren zustimmen bestatige accepte accepter acepto aceptar reconnais
access zugang zutritt acces acceso
account konto compte cuenta
activity activities aktivitat activite actividad
address anschrift adresse direccion domicilio
adult erwachsene adulte adulto
age old alter edad
agent adviser advisor berater conseiller asesor
allergy allergies allergie alergia
alternative ausweich alternatif alternativo fallback
amount sum betrag summe montant importe monto
animal pet haustier tier animaux mascota animales
answer reply antwort reponse respuesta
applicant bewerber candidat candidato solicitante
application bewerbung antrag candidature demande solicitud
appointment  termin rendez vous cita
approval genehmigung approbation aprobacion
area gebiet zone bereich gegend
arrival ankunft anreise arrivee llegada
asset gerat inventar equipo
attendee attendees participant participants teilnehmer teilnehmerin asistente participantes gaste invites
availability available verfugbarkeit verfugbar disponibilite disponible disponibilidad
bank banque banco
batch charge lot lote
bed bett lit cama
begin start beginn anfang ab commence debut inicio empieza starts begins
behaviour behavior verhalten comportement comportamiento
beneficiary beneficiaries benefit begunstigte beneficiaire beneficiario
bike bicycle fahrrad velo bicicleta
birth geburt geboren naissance nacimiento born
boat boot bateau barco barca
booking reservation buchung reservierung reserva book reserve reserver reservar
brand marke marque marca
breed rasse race raza
budget kostenrahmen presupuesto
building gebaude haus batiment edificio
bus shuttle autobus
call ring anrufen appeler llamar
cancel cancellation stornierung kundigung annulation cancelacion
capacity kapazitat capacite capacidad
car vehicle auto fahrzeug wagen voiture vehicule coche vehiculo
card karte carte tarjeta
category kategorie categorie categoria
cause ursache
certificate zertifikat bescheinigung certificat certificado
change anderung changement cambio
child children kid kids kinder enfant enfants nino ninos hijo hijos
choice choose auswahl wahl choix eleccion elegido chosen gewahlt
citizenship nationality nationalitat staatsangehorigkeit nationalite nacionalidad
city town stadt ort wohnort ville ciudad localidad locality
class klasse classe grade
cleaning reinigung nettoyage limpieza
client customer kunde kundin cliente guest kunden
clothing kleidung vetement ropa
club verein association asociacion
code kode codigo
colour color farbe couleur
comment comments remark remarks note notes kommentar bemerkung anmerkung commentaire remarque comentario observacion observaciones observations bemerkungen anmerkungen
company firm firma unternehmen entreprise societe empresa business betrieb
complaint beschwerde reklamation plainte reclamation queja reclamacion
condition zustand etat estado
contact kontakt contacto
contract vertrag contrat contrato
cost price kosten preis cout prix coste precio
country land pays pais
course kurs lehrgang cours curso workshop taller seminar seminario atelier training schulung formacion
damage schaden dommage degat dano danos schadens
date datum fecha
day tag tage jour jours dia dias days
deadline frist echeance plazo due delai
delivery lieferung liefer livraison entrega envio shipping versand
department abteilung departement departamento
departure abreise abfahrt depart salida
deposit anzahlung kaution caution acompte deposito fianza
description describe beschreibung beschreiben decrivez descripcion describa
destination ziel destino
diet dietary ernahrung verpflegung essen food regime alimentaire dieta alimentacion alimentarias
difficulty schwierigkeit difficulte dificultad
disability behinderung handicap discapacidad
discount rabatt remise descuento
distance entfernung distancia
district bezirk quartier barrio distrito
doctor physician arzt arztin medecin medico
document documents dokument unterlagen documento documentos
dog hund hundes chien perro
donation gift spende don donacion
door tur porte puerta
driver fahrer fahrerin conducteur conductor
duration dauer duree duracion long
education studies bildung ausbildung schulbildung abschluss etudes estudios formation
emergency notfall urgence emergencia
employer arbeitgeber employeur empleador
employment laboral berufstatigkeit beschaftigung emploi empleo job
end finish ende endet fin finaliza ends until bis
engine motor moteur
equipment gear material ausrustung ausstattung materiel equipement equipamiento
error fault fehler erreur fallo
event veranstaltung evenement evento
exam prufung examen
expectation expected erwartung vorstellung
experience erfahrung erfahrungen experiencia
family familie famille familia
fee gebuhr frais cuota tasa
feedback ruckmeldung
file files datei dateien fichier fichiers archivo archivos attachment attachments anhang adjunto upload pj
flat apartment unit wohnung appartement logement apartamento
floor stockwerk etage piso planta
form formular formulaire formulario
frequency often haufigkeit oft frequence souvent frecuencia
fuel benzin kraftstoff carburant combustible
garden garten jardin
gender sex geschlecht genre sexe genero
goal aim objective zweck objectif objetivo
group gruppe groupe grupo
guide fuhrer fuhrung guia
habit gewohnheit
hall saal salle room raum zimmer chambre sala salon habitacion
health gesundheit sante salud medical medizinisch
height grosse hauteur altura
help support hilfe unterstutzung aide ayuda soutien
hotel unterkunft accommodation hebergement alojamiento
hour stunde heure hora hours
house maison casa
household haushalt foyer hogar
idea idee
identity ausweis identite identidad dni
improve improvement suggestion suggestions verbessern verbesserung ameliorer mejorar sugerencia sugerencias vorschlag vorschlage
income earnings einkommen nettoeinkommen revenu revenus ingresos
individual individuals einzeln
information info informationen informations informacion
insurance versicherung assurance seguro
interest interests interessen interesse interets intereses
interview gesprach entretien entrevista
invoice billing rechnung facture facturation factura facturacion
issue problem problems storung probleme problema incident vorfall incidencia broken damaged kaputt defekt casse roto averiado
item product article artikel produkt produit producto articulo
key schlussel cle clave llave
language sprache langue idioma languages
length lange longueur longitud
letter anschreiben brief lettre carta
level stufe niveau nivel
licence license fuhrerschein permis licencia
link lien enlace
load last
location place where site wo standort lieu emplacement lugar ubicacion sitio endroit
loss verlust perte perdida
machine maschine maquina
manager supervisor leiter leiterin vorgesetzte responsable jefe
map plan mapa
marital familienstand matrimoniale civil
meal mahlzeit repas comida
medicine medication medikamente medicament medicamento medicacion
meeting treffen reunion sitzung
member mitglied membre miembro socio
membership mitgliedschaft adhesion afiliacion
message nachricht mensaje
mileage odometer kilometerstand kilometrage kilometraje
model modell modele modelo
money geld argent dinero
month monat mois mes
motivation motivacion beweggrund
music musik musique musica
need needs required bedarf besoin besoins necesidad necessary notig benotigt necessaire requirement requirements
neighbour nachbar voisin vecino
newsletter mailing rundbrief infolettre boletin
night nacht nuit noche nights nachte nuits noches
number nummer numero nr
observer beobachter observateur observador
occupation beruf profession profesion metier
office buro bureau oficina
option options optionen opciones
order bestellung commande pedido orden
organisation organization organizacion charity
origin herkunft origine origen
owner besitzer halter eigentumer proprietaire propietario dueno
package packet paket colis paquete
parent guardian eltern erziehungsberechtigte parents tuteur padres tutor
parking parkplatz stellplatz estacionamiento aparcamiento
part teil partie parte
partner partnerin pareja
patient patientin paciente
payment zahlung bezahlung paiement reglement pago pay zahlen
permission allowed erlaubnis autorisation permiso may darf durfen
person people persons personen personnes personne personas
phone telephone telefon telefono mobile handy portable movil tel
photo photos picture pictures image images foto fotos bild bilder imagen imagenes photograph photographs
plate registration kennzeichen immatriculation matricula
player spieler joueur jugador
policy police poliza
pool becken piscine piscina
position stelle poste puesto role funktion fonction cargo
preference preferred prefer bevorzugt gewunscht wunsch preferee souhaite souhaitee preferida preferido
previous vorherig precedente previa previo
prize preisgeld premio
project projekt vorhaben projet proyecto
proof nachweis preuve justificatif prueba
property immobilie grundstuck propriete propiedad
purpose finalidad proposito
quantity qty count menge anzahl zahl stuck quantite combien cantidad cuantos cuantas many viele
question questions frage fragen pregunta preguntas
rating bewertung valoracion stars satisfaction zufriedenheit satisfaccion
reason grund raison motivo razon motif
receipt quittung beleg recu recibo
recipient empfanger destinataire destinatario
reference referenz aktenzeichen referencia
refund erstattung remboursement reembolso
relationship verhaltnis verwandtschaft parentesco relacion
rent miete loyer alquiler
report bericht rapport informe meldung
reporter melder meldende declarant
request wunsche anfrage anliegen peticion ask asking asked requested
result ergebnis resultat resultado
return ruckgabe retour devolucion
review uberprufung
river fluss riviere rio
road strasse street rue calle
route weg strecke ruta
rule rules regel regeln regles reglas normas
safety sicherheit securite seguridad
salary gehalt lohn salaire salario sueldo
sample probe echantillon muestra
schedule zeitplan horaire horario
school schule ecole escuela colegio
season saison temporada
seat sitz sitzplatz siege asiento
serial seriennummer serie
service dienst dienstleistung prestation servicio leistung
severity schwere gravite gravedad
shirt trikot tshirt camiseta
signature unterschrift signed unterzeichnet signe firmado
size taille talla tamano konfektionsgrosse
skill skills kenntnisse fahigkeiten competence competences habilidad habilidades
smoker smoke raucher rauchen fumeur fumador
space platz espace espacio
speaker talk redner vortrag orateur intervenant conference ponente ponencia charla
special sonder besonder speciaux especial especiales
species espece especie
sport sportart deporte
staff mitarbeiter personnel
state bundesland kanton provinz province provincia region county
station bahnhof gare estacion
status stand statut
student schuler schulerin eleve eleves alumno alumnos pupil pupils studierende etudiant estudiante
subject topic betreff thema objet sujet asunto tema
summary zusammenfassung resumen headline title titel titre titulo
surface flache superficie
swim schwimmen nager nadar swimmer
symptom symptome sintoma sintomas
table tisch mesa
task aufgabe tache tarea
teacher lehrer lehrkraft lehrerin enseignant professeur profesor maestro
team mannschaft equipe
temperature temperatur temperatura temp
tenant mieter mieterin locataire inquilino
term terms bedingungen agb conditions condiciones terminos
ticket eintrittskarte billet entrada
time uhrzeit zeit slot
tool werkzeug outil herramienta
transport transportmittel
travel trip reise fahrt voyage trajet viaje
tree baum arbre arbol
type kind sort art typ sorte tipo clase
urgency urgent dringlichkeit dringend urgente urgencia priority prioritat priorite prioridad
user nutzer benutzer utilisateur usuario
vaccination vaccinated impfung geimpft vaccin vacuna
version fassung
video film
visit besuch visite visita besichtigung
volunteer volunteering ehrenamt freiwillige benevole benevolat voluntario voluntariado
vote stimme voto
walk spaziergang promenade paseo paseos
water wasser eau agua
weather wetter meteo
website homepage webseite
week woche semaine semana weeks
weight gewicht poids peso
window fenster fenetre ventana
year jahr annee ano years
`;

/** Singular and plural, masculine and feminine are one: the same stem counts as the same word. */
export const synonyms: readonly (readonly string[])[] = groups
  .split('\n')
  .map(line => line.trim().split(' '))
  .filter(words => words[0] !== '');
